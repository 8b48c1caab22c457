import type { Series } from '@/api/types'

const startsWord = (text: string, word: string) => ` ${text}`.includes(` ${word}`)

/**
 * The series that hold every word, best first: in the title, then in the labels and the key, then in the questions, then
 * in the meaning; where a word begins before where it is only a part of one; the whole instance before its parts.
 */
export function search(series: Series[], words: string): Series[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  const scored = series.flatMap((s) => {
    const fields = [
      s.title,
      `${Object.values(s.labels).join(' ')} ${s.counter.replace(/[._]/g, ' ')} ${s.unit}`,
      s.questions.join(' '),
      `${s.meaning} ${s.suggests}`,
    ].map((field) => field.toLowerCase())
    // the words as they stand in the title beat the same words scattered over it
    let score = (s.whole ? 0 : 0.5) - (startsWord(fields[0] ?? '', wanted.join(' ')) ? 0.7 : 0)
    if (fields[0] === wanted.join(' ')) score -= 1
    for (const word of wanted) {
      const begins = fields.findIndex((field) => startsWord(field, word))
      const place = fields.findIndex((field) => field.includes(word))
      if (place < 0) return []
      score += begins < 0 ? fields.length + place : begins
    }
    return [{ s, score }]
  })
  return scored
    .sort((a, b) => a.score - b.score || a.s.title.localeCompare(b.s.title))
    .map((x) => x.s)
}
