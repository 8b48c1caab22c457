import type { Series } from '@/api/types'
import { linesOf, limitOf, numberOf } from '@/limits/limits'
import { exact, plain, range } from '@/text/format'

/** What stands beside every number: its normal, its limit, and how far it is outside. */

export type Normal = { low: number | null; high: number | null }

export const normalInWords = ({ low, high }: Normal, unit: string) =>
  low === null || high === null ? 'no normal yet' : `normal ${range(low, high, unit)}`

/** Times its usual spread: one figure where that is enough. */
const times = (distance: number) =>
  Math.abs(distance) < 10 ? Math.abs(distance).toFixed(1) : `${Math.round(Math.abs(distance))}`

/** The sign of what has left its normal: never that of an alert. */
export const departure = (distance: number) => `${distance > 0 ? '▵' : '▿'} ${times(distance)}×`

export const departureInWords = (distance: number) =>
  `${times(distance)} × its usual spread ${distance > 0 ? 'above' : 'below'} the middle of its normal, for three minutes at least`

export function limitInWords(series: Pick<Series, 'limits' | 'unit' | 'why'>): string {
  const lines = linesOf(series)
  const below = limitOf(series)?.condition === 'below' ? 'below ' : ''
  if (lines.length) {
    return `limit ${below}${lines.map((line) => plain(line.value, series.unit)).join(', ')}`
  }
  const other = series.limits[0]
  const lowest = other && (other.warning ?? other.critical)
  if (other && lowest != null) return `limit ${numberOf(other.condition, lowest, series.unit)}`
  return series.why === 'paused' ? 'limits rest while paused' : 'no limit set'
}

/** All that is known of a value, in one line. */
export function allInWords(series: Series): string {
  if (series.value === null) return series.meaning
  return [
    exact(series.value, series.unit),
    normalInWords({ low: series.normalLow, high: series.normalHigh }, series.unit),
    series.distance === null ? '' : departureInWords(series.distance),
    limitInWords(series),
    series.meaning,
  ]
    .filter(Boolean)
    .join(' · ')
}
