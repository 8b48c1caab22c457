import type { Points, Series } from '@/api/types'

/** One of several lines in a chart: whose it is stands at its end. */
export type ChartLine = {
  name: string
  /** The place of its colour. */
  colour: number
  series: Series
  points: Points | undefined
}

/** More lines than these are not told apart. */
export const MOST_LINES = 8

/** What counts in times the middle of its own normal. */
export const TIMES = '×'

/**
 * Every value as a share of what is normal at its time: 1 is the middle of its normal. Nothing where
 * none is known, or where it is zero.
 */
export function shareOfNormal(points: Points): Points {
  const { normal } = points
  const share = (values: (number | null)[]) =>
    values.map((value, i) => {
      const usual = normal[i]
      return value === null || value === undefined || !usual ? null : value / usual
    })
  return {
    ...points,
    mean: share(points.mean),
    min: share(points.min),
    max: share(points.max),
    normalLow: share(points.normalLow),
    normal: share(points.normal),
    normalHigh: share(points.normalHigh),
  }
}
