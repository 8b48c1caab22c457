import type { Marker, OutcomeOf } from '@/api/types'
import { labelsOf } from '@/series/labels'
import { number } from '@/text/format'

/** How long after it, the longest first. */
export const AFTER: [span: string, words: string][] = [
  ['week', 'a week after it'],
  ['day', 'a day after it'],
  ['hour', 'an hour after it'],
  ['minutes', 'so far, ten minutes after it'],
]

/** What is told of the longest time after it, and after how long something is told, too. */
export function latest(all: OutcomeOf[]) {
  const told = AFTER.filter(([span]) => all.some((one) => one.span === span))
  const [first, ...earlier] = told
  if (!first) return
  const [span, words] = first
  return { span, words, earlier, all: all.filter((one) => one.span === span) }
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
export const countsInWords = (one: OutcomeOf) =>
  `${counts(one)} of ${one.better + one.worse + one.other + one.same} counters`

/** All of its instances together: "a day after it: 5 better, 2 worse". */
export function outcomeInWords({ outcome }: Marker): string {
  const after = AFTER.find(([span]) => span === outcome?.span)
  return outcome && after ? `${after[1]}: ${counts(outcome)}` : ''
}

export const mostInWords = (most: OutcomeOf['most'][number]) =>
  `${[most.title, labelsOf(most)].filter(Boolean).join(' · ')} ${number(most.before, most.unit)} → ${number(most.after, most.unit)}`
