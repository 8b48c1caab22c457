import type { Busy, Points } from '@/api/types'

/** A part of the sessions over time, as a chart draws it. Where there is no sample there is a gap. */
export function asPoints(busy: Busy, mean: (number | null)[]): Points {
  const none = mean.map(() => null)
  const half = busy.stepMs / 2
  const spans: Points['spans'] = []
  busy.all.forEach((value, i) => {
    const from = busy.at[i] ?? 0
    if (value !== null) return
    const last = spans.at(-1)
    if (last && last.to === from) last.to = from + busy.stepMs
    else spans.push({ from, to: from + busy.stepMs, why: 'not sampled' })
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
    spans,
  }
}
