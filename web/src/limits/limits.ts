import type { LimitInForce, Series } from '@/api/types'
import type { Line } from '@/chart/LimitLines.vue'

/** The limit of a series that has numbers on its own axis, if any. */
export const limitOf = (series: Pick<Series, 'limits'>): LimitInForce | undefined =>
  series.limits.find((l) => l.condition === 'above' || l.condition === 'below')

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
  silent: 'silent',
  unreachable: 'unreachable',
}

/** Where a number comes from. */
export const ORIGIN: Record<string, string> = {
  kind: 'its kind',
  group: 'its group',
  instance: 'this instance',
}
