import type { Points } from '@/api/types'

/** What is known in steps of one length; null where nothing is. */
type Stepped = { at: number[]; stepMs: number; all: (number | null)[] }

/**
 * A part of it over time, as a chart draws it.
 *
 * @param why there is a gap where nothing is known
 */
export function asPoints(busy: Stepped, mean: (number | null)[], why = 'not sampled'): Points {
  const none = mean.map(() => null)
  const half = busy.stepMs / 2
  const spans: Points['spans'] = []
  busy.all.forEach((value, i) => {
    const from = busy.at[i] ?? 0
    if (value !== null) return
    const last = spans.at(-1)
    if (last && last.to === from) last.to = from + busy.stepMs
    else spans.push({ from, to: from + busy.stepMs, why })
  })
  return {
    series: 0,
    // the mean of a step stands in its middle
    at: busy.at.map((at) => at + half),
    mean,
    min: mean,
    max: mean,
    normalLow: none,
    normal: none,
    normalHigh: none,
    normalSince: null,
    spans,
  }
}
