import type { Points, Series } from '@/api/types'
import { placeAt } from '@/chart/points'

/** Of so many intervals a reading holds. */
const HOLDS = 2.5

export type ToldAt = {
  value: number | null
  low: number | null
  high: number | null
  /** Of when it is, where that is not now; epoch ms. */
  when: number | undefined
  now: boolean
  /** When its normal was learned, where that was only afterwards; epoch ms. */
  learned: number | null
}

/**
 * What a chart tells in words: at a moment the reading that holds there; else the latest, or the last
 * of a window that stands still.
 *
 * @param at the moment, epoch ms; undefined for none
 * @param live whether the window ends now
 * @param to its end
 */
export function toldAt(
  series: Series,
  points: Points | undefined,
  at: number | undefined,
  live: boolean,
  to: number,
): ToldAt {
  if (points && (at !== undefined || !live)) {
    const i = placeAt(points, at ?? to)
    const when = points.at[i]
    if (at !== undefined && (when === undefined || at - when > series.interval * HOLDS * 1000)) {
      return { value: null, low: null, high: null, when: at, now: false, learned: null }
    }
    return {
      value: points.mean[i] ?? null,
      low: points.normalLow[i] ?? null,
      high: points.normalHigh[i] ?? null,
      when: at === undefined ? undefined : when,
      now: false,
      learned:
        points.normalSince !== null && when !== undefined && when < points.normalSince
          ? points.normalSince
          : null,
    }
  }
  const { value, normalLow: low, normalHigh: high } = series
  return { value, low, high, when: undefined, now: true, learned: null }
}
