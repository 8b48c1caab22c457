/** The rail's scale: three stretches side by side, each linear: six weeks, the last day, the last hour. */

const HOUR = 3_600_000
const DAY = 24 * HOUR
export const WEEKS = 42 * DAY

/** Ages in ms at the edges of the stretches, and their places from 0 (left) to 1 (now). */
const EDGES: [age: number, place: number][] = [
  [WEEKS, 0],
  [DAY, 0.46],
  [HOUR, 0.77],
  [0, 1],
]

/** The place of a moment, 0 … 1. */
export function placeOf(at: number, now: number): number {
  const age = Math.min(WEEKS, Math.max(0, now - at))
  for (let i = 1; i < EDGES.length; i++) {
    const [older, left] = EDGES[i - 1] as [number, number]
    const [newer, right] = EDGES[i] as [number, number]
    if (age >= newer) return left + ((older - age) / (older - newer)) * (right - left)
  }
  return 1
}

/** How far it is from a moment to the next of others, or to the end of the rail: 0 … 1. */
export function room(at: number, others: number[], now: number): number {
  const next = Math.min(...others.filter((other) => other > at), now)
  return placeOf(Math.max(at, next), now) - placeOf(at, now)
}

/** The moment at a place. */
export function momentAt(place: number, now: number): number {
  const p = Math.min(1, Math.max(0, place))
  for (let i = 1; i < EDGES.length; i++) {
    const [older, left] = EDGES[i - 1] as [number, number]
    const [newer, right] = EDGES[i] as [number, number]
    if (p <= right) return now - (older - ((p - left) / (right - left)) * (older - newer))
  }
  return now
}

export type Tick = { at: number; kind: 'week' | 'hour' | 'minute' }

/** Where the rail is labelled: Mondays, every six hours of the last day, every quarter of the last hour. */
export function ticks(now: number): Tick[] {
  const found: Tick[] = []
  const monday = new Date(now - WEEKS)
  monday.setHours(0, 0, 0, 0)
  monday.setDate(monday.getDate() + ((8 - monday.getDay()) % 7))
  for (const at = monday; at.getTime() < now - 3 * DAY; at.setDate(at.getDate() + 7)) {
    found.push({ at: at.getTime(), kind: 'week' })
  }
  const hour = new Date(now - DAY)
  hour.setMinutes(0, 0, 0)
  for (const at = hour; at.getTime() < now - 2 * HOUR; at.setHours(at.getHours() + 1)) {
    if (at.getHours() % 6 === 0 && at.getTime() > now - DAY + HOUR) {
      found.push({ at: at.getTime(), kind: 'hour' })
    }
  }
  const quarter = 15 * 60_000
  for (
    let at = Math.ceil((now - HOUR + 60_000) / quarter) * quarter;
    at < now - 120_000;
    at += quarter
  ) {
    found.push({ at, kind: 'minute' })
  }
  return found
}
