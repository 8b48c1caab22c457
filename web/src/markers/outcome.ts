import type { Marker } from '@/api/types'
import { labelsOf } from '@/series/labels'
import { number } from '@/text/format'

/** What a release or a change made better or worse, in words. */
export type Outcome = Marker['outcomes'][number]

/** How long after it, the longest first. */
export const AFTER: [span: string, words: string][] = [
  ['week', 'a week after it'],
  ['day', 'a day after it'],
  ['hour', 'an hour after it'],
  ['minutes', 'so far, ten minutes after it'],
]

/** What is told of the longest time after it. */
export function latest(
  marker: Marker,
): { span: string; words: string; all: Outcome[] } | undefined {
  for (const [span, words] of AFTER) {
    const all = marker.outcomes.filter((one) => one.span === span)
    if (all.length) return { span, words, all }
  }
}

const counts = (of: { better: number; worse: number; other: number }) =>
  [
    of.better ? `${of.better} better` : '',
    of.worse ? `${of.worse} worse` : '',
    of.other ? `${of.other} higher or lower` : '',
  ]
    .filter(Boolean)
    .join(', ') || 'nothing changed'

/** "3 better, 1 worse of 116 counters". */
export const countsInWords = (one: Outcome) =>
  `${counts(one)} of ${one.better + one.worse + one.other + one.same} counters`

/** All of its instances together: "a day after it: 5 better, 2 worse". */
export function outcomeInWords(marker: Marker): string {
  const told = latest(marker)
  if (!told) return ''
  const sum = (of: (one: Outcome) => number) => told.all.reduce((all, one) => all + of(one), 0)
  return `${told.words}: ${counts({
    better: sum((one) => one.better),
    worse: sum((one) => one.worse),
    other: sum((one) => one.other),
  })}`
}

export const mostInWords = (most: Outcome['most'][number]) =>
  `${[most.title, labelsOf(most)].filter(Boolean).join(' · ')} ${number(most.before, most.unit)} → ${number(most.after, most.unit)}`
