import type { LimitInForce, Series } from '@/api/types'
import type { Line } from '@/chart/LimitLines.vue'
import { many, plain } from '@/text/format'

/** Whether its numbers lie on the axis of what it watches. */
export const isOnAxis = (limit: { condition: string }) =>
  limit.condition === 'above' || limit.condition === 'below'

/** Whether it is about the whole instance: that it is not read, not how one of its counters is. */
export const isOfInstance = (of: { condition: string }) =>
  of.condition === 'silent' || of.condition === 'unreachable'

/** Whether less is worse of what is held against its numbers. */
export const isDownwards = (limit: { condition: string }) =>
  limit.condition === 'below' || limit.condition === 'reaches'

/** The limit of a series that has numbers on its own axis, if any. */
export const limitOf = (series: Pick<Series, 'limits'>): LimitInForce | undefined =>
  series.limits.find(isOnAxis)

export function linesOf(series: Pick<Series, 'limits'>): Line[] {
  const limit = limitOf(series)
  const lines: Line[] = []
  if (limit?.warning != null) lines.push({ kind: 'warning', value: limit.warning })
  if (limit?.critical != null) lines.push({ kind: 'critical', value: limit.critical })
  return lines
}

/** Which number a value is at or beyond: how it is drawn, not whether an alert rose. */
export function severityOf(
  series: Pick<Series, 'limits'>,
  value: number | null,
): 'warning' | 'critical' | undefined {
  const limit = limitOf(series)
  if (!limit || value === null) return undefined
  const beyond = (n: number | null) =>
    n !== null && (limit.condition === 'below' ? value <= n : value >= n)
  if (beyond(limit.critical)) return 'critical'
  return beyond(limit.warning) ? 'warning' : undefined
}

export const CONDITIONS: Record<string, string> = {
  above: 'above',
  below: 'below',
  outside: 'outside normal',
  overdue: 'did not happen',
  reaches: 'will reach',
  silent: 'silent',
  unreachable: 'unreachable',
}

/** Where a number comes from. */
export const ORIGIN: Record<string, string> = {
  kind: 'its kind',
  group: 'its group',
  instance: 'this instance',
}

/** What the numbers of a limit count that is not on the axis of what it watches. */
export const COUNTS: Record<string, string> = {
  outside: '× its usual spread',
  overdue: 'min late',
  reaches: 'days before',
}

/** A number of a limit, or a value that is held against it. */
export function numberOf(condition: string, n: number, unit: string): string {
  if (isOfInstance({ condition })) return many(n, 'interval')
  const counts = COUNTS[condition]
  return counts ? `${n} ${counts}` : plain(n, unit)
}

const two = (n: number) => `${n}`.padStart(2, '0')

/** A minute of the day as a time: 130 is 02:10. */
export const timeOfMinute = (minute: number) =>
  `${two(Math.floor(minute / 60))}:${two(Math.round(minute) % 60)}`

export function minuteOfTime(time: string): number | null {
  const [hours, minutes] = time.split(':').map(Number)
  return hours === undefined || minutes === undefined || Number.isNaN(hours + minutes)
    ? null
    : 60 * hours + minutes
}

/** What a limit watches for, with when it is due or what is reached. */
export function watchesFor(limit: { condition: string; against?: number | null }, unit: string) {
  const words = CONDITIONS[limit.condition] ?? limit.condition
  if (limit.against === null || limit.against === undefined) return words
  if (limit.condition === 'overdue') return `${words} by ${timeOfMinute(limit.against)}`
  return limit.condition === 'reaches' ? `${words} ${plain(limit.against, unit)}` : words
}
