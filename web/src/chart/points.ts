import type { Points } from '@/api/types'

/** The place of the reading that holds at a moment: the last one at or before it; −1 for none. */
export function placeAt(points: Points, at: number): number {
  let low = 0
  let high = points.at.length - 1
  let found = -1
  while (low <= high) {
    const middle = (low + high) >> 1
    if ((points.at[middle] ?? Infinity) <= at) {
      found = middle
      low = middle + 1
    } else {
      high = middle - 1
    }
  }
  return found
}

/** So many points at the end tell how far they are apart. */
const LATEST = 5

/** How far points are apart: as it is read, or, in a wide window, as wide as its steps. */
function usual(at: number[], intervalMs: number): number {
  const latest = at.slice(-LATEST)
  const ways = latest.slice(1).map((t, i) => t - (latest[i] ?? t))
  return ways.length ? Math.max(intervalMs, Math.min(...ways)) : intervalMs
}

/** Whether a reading at this time ends a silence: of more than 2.5 intervals. */
export function endsHole(points: Points, at: number, intervalMs: number): boolean {
  const last = points.at[points.at.length - 1]
  return last !== undefined && at - last > usual(points.at, intervalMs) * 2.5
}

/**
 * Adds a live reading at the end and drops what left the window. A silence before it becomes a gap, as the server draws
 * it.
 */
export function extended(
  points: Points,
  at: number,
  value: number | null,
  from: number,
  intervalMs: number,
): Points {
  const last = points.at[points.at.length - 1]
  if (last !== undefined && at <= last) return points
  const drop = points.at.findIndex((t) => t >= from - intervalMs * 3)
  const keep = <T>(list: T[]) => (drop > 0 ? list.slice(drop) : list.slice())
  const next = {
    series: points.series,
    at: keep(points.at),
    mean: keep(points.mean),
    min: keep(points.min),
    max: keep(points.max),
    normalLow: keep(points.normalLow),
    normal: keep(points.normal),
    normalHigh: keep(points.normalHigh),
    normalSince: points.normalSince,
    spans: points.spans,
  }
  // what is normal is told anew with the next whole fetch; within its quarter-hour it stays
  const same = (list: (number | null)[]) => list.push(list[list.length - 1] ?? null)
  const add = (when: number, v: number | null) => {
    next.at.push(when)
    next.mean.push(v)
    next.min.push(v)
    next.max.push(v)
    same(next.normalLow)
    same(next.normal)
    same(next.normalHigh)
  }
  if (last !== undefined && endsHole(points, at, intervalMs)) {
    add((last + at) / 2, null)
  }
  add(at, value)
  return next
}
