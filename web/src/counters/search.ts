import type { Series } from '@/api/types'

/**
 * What is looked through, in the order of its weight; made once for each series, which is another object with each
 * reading: what it answers is the same.
 */
const looked = new WeakMap<object, string[]>()
function fieldsOf(s: Series): string[] {
  const same = s.questions
  let fields = looked.get(same)
  if (!fields) {
    fields = [
      s.title,
      `${Object.values(s.labels).join(' ')} ${s.about} ${s.counter.replace(/[._]/g, ' ')} ${s.unit}`,
      s.questions.join(' '),
      `${s.meaning} ${s.suggests}`,
    ].map((field) => ` ${field.toLowerCase()}`)
    looked.set(same, fields)
  }
  return fields
}

/** How well one series fits; the lower the better, undefined for not at all. */
function score(s: Series, wanted: string[], whole: string): number | undefined {
  const fields = fieldsOf(s)
  // the words as they stand in the title beat the same words scattered over it
  let sum = (s.whole ? 0 : 0.5) - (fields[0]?.includes(` ${whole}`) ? 0.7 : 0)
  if (fields[0] === ` ${whole}`) sum -= 1
  for (const word of wanted) {
    const begins = fields.findIndex((field) => field.includes(` ${word}`))
    if (begins >= 0) {
      sum += begins
      continue
    }
    const place = fields.findIndex((field) => field.includes(word))
    if (place < 0) return undefined
    sum += fields.length + place
  }
  return sum
}

/**
 * The series that hold every word, best first: in the title, then in the labels and the key, then in the questions, then
 * in the meaning; where a word begins before where it is only a part of one; the whole instance before its parts. They
 * are given as they are: who shows some of them live makes these few reactive.
 */
export function search(series: Series[], words: string): Series[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  const whole = wanted.join(' ')
  const found: { s: Series; score: number; title: string }[] = []
  series.forEach((s) => {
    const fit = score(s, wanted, whole)
    if (fit !== undefined) found.push({ s, score: fit, title: fieldsOf(s)[0] ?? '' })
  })
  return found
    .sort((a, b) => a.score - b.score || (a.title < b.title ? -1 : a.title > b.title ? 1 : 0))
    .map(({ s }) => s)
}
