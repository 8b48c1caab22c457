/**
 * The rail's scale: three stretches side by side, each linear: six weeks or all that is kept, the last
 * day, the last hour.
 */

const HOUR = 3_600_000
const DAY = 24 * HOUR
export const WEEKS = 42 * DAY

/** Ages in ms at the edges of the stretches, and their places from 0 (left) to 1 (now). */
const edges = (reach: number): [age: number, place: number][] => [
  [reach, 0],
  [DAY, 0.46],
  [HOUR, 0.77],
  [0, 1],
]

/**
 * The place of a moment, 0 … 1.
 *
 * @param reach how far back the rail goes, ms
 */
export function placeOf(at: number, now: number, reach = WEEKS): number {
  const age = Math.min(reach, Math.max(0, now - at))
  const all = edges(reach)
  for (let i = 1; i < all.length; i++) {
    const [older, left] = all[i - 1] as [number, number]
    const [newer, right] = all[i] as [number, number]
    if (age >= newer) return left + ((older - age) / (older - newer)) * (right - left)
  }
  return 1
}

/** How far it is from a moment to the next of others, or to the end of the rail: 0 … 1. */
export function room(at: number, others: number[], now: number, reach = WEEKS): number {
  const next = Math.min(...others.filter((other) => other > at), now)
  return placeOf(Math.max(at, next), now, reach) - placeOf(at, now, reach)
}

/** The moment at a place. */
export function momentAt(place: number, now: number, reach = WEEKS): number {
  const p = Math.min(1, Math.max(0, place))
  const all = edges(reach)
  for (let i = 1; i < all.length; i++) {
    const [older, left] = all[i - 1] as [number, number]
    const [newer, right] = all[i] as [number, number]
    if (p <= right) return now - (older - ((p - left) / (right - left)) * (older - newer))
  }
  return now
}

export type Tick = { at: number; kind: 'month' | 'week' | 'hour' | 'minute' }

/** Further back the months are named instead of the Mondays. */
const BY_MONTHS = 100 * DAY

function longAgo(now: number, reach: number): Tick[] {
  const found: Tick[] = []
  const months = reach > BY_MONTHS
  const at = new Date(now - reach)
  at.setHours(0, 0, 0, 0)
  if (months) at.setMonth(at.getMonth() + 1, 1)
  else at.setDate(at.getDate() + ((8 - at.getDay()) % 7))
  while (at.getTime() < now - 3 * DAY) {
    found.push({ at: at.getTime(), kind: months ? 'month' : 'week' })
    if (months) at.setMonth(at.getMonth() + 1)
    else at.setDate(at.getDate() + 7)
  }
  return found
}

/**
 * Where the rail is labelled: Mondays or months, every six hours of the last day, every quarter of
 * the last hour.
 */
export function ticks(now: number, reach = WEEKS): Tick[] {
  const found = longAgo(now, reach)
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

/** A label takes so much, px. */
const LABEL = 46

/** Those whose labels have room on a rail that is so wide: none stands on the one before it. */
export function spaced(all: Tick[], now: number, width: number, reach = WEEKS): Tick[] {
  let last = -Infinity
  return all.filter((tick) => {
    const place = placeOf(tick.at, now, reach) * width
    if (place - last < LABEL) return false
    last = place
    return true
  })
}

/** A bar of the rail: one alert, or several that are too near to each other to be told apart. */
export type Bar<T> = {
  kind: string
  from: number
  to: number
  left: number
  right: number
  all: T[]
}

/**
 * Bars that touch, or nearly do, become one of their kind: there are never more than there are
 * pixels for.
 *
 * @param gap least place between two bars, 0 … 1
 */
export function merged<T>(
  all: { kind: string; from: number; to: number; of: T }[],
  now: number,
  gap: number,
  reach = WEEKS,
): Bar<T>[] {
  const bars: Bar<T>[] = []
  const last = new Map<string, Bar<T>>()
  for (const one of [...all].sort((a, b) => a.from - b.from)) {
    const left = placeOf(one.from, now, reach)
    const right = Math.max(left + gap, placeOf(one.to, now, reach))
    const before = last.get(one.kind)
    if (before && left < before.right + gap) {
      before.right = Math.max(before.right, right)
      before.to = Math.max(before.to, one.to)
      before.all.push(one.of)
    } else {
      const bar = { kind: one.kind, from: one.from, to: one.to, left, right, all: [one.of] }
      last.set(one.kind, bar)
      bars.push(bar)
    }
  }
  return bars
}

/** The begin of a day in a zone: its clocks may be set that night. */
export function midnight(at: number, zone: string, days = 0): number {
  const parts = (t: number) => {
    const told = Object.fromEntries(
      new Intl.DateTimeFormat('en-GB', {
        timeZone: zone,
        hourCycle: 'h23',
        year: 'numeric',
        month: 'numeric',
        day: 'numeric',
        hour: 'numeric',
        minute: 'numeric',
        second: 'numeric',
      })
        .formatToParts(t)
        .map((part) => [part.type, Number(part.value)]),
    )
    const clock = Date.UTC(
      told.year ?? 0,
      (told.month ?? 1) - 1,
      told.day,
      told.hour,
      told.minute,
      told.second,
    )
    return { clock, day: Date.UTC(told.year ?? 0, (told.month ?? 1) - 1, (told.day ?? 1) + days) }
  }
  const wanted = parts(at).day
  let found = wanted
  // the offset of one day is not that of another: twice is enough
  for (let i = 0; i < 2; i++) found += wanted - parts(found).clock
  return found
}

export const SPANS = [
  'today',
  'yesterday',
  'this week',
  'last week',
  'this month',
  'last month',
  'twelve months',
] as const
export type Span = (typeof SPANS)[number]

/** From when to when a span of the calendar goes; what is not over ends now. */
export function calendarSpan(span: Span, now: number, zone: string): { from: number; to: number } {
  const today = midnight(now, zone)
  // noon of a day is that day in the calendar whatever its clocks do
  const noon = new Date(today + 12 * HOUR)
  const local = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    weekday: 'short',
    day: 'numeric',
  })
  const told = Object.fromEntries(local.formatToParts(noon).map((p) => [p.type, p.value]))
  const weekday = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'].indexOf(told.weekday ?? 'Mon')
  const monday = midnight(now, zone, -weekday)
  const first = midnight(now, zone, 1 - Number(told.day))
  const before = (at: number) => midnight(at - HOUR, zone)
  const firstBefore = () => {
    const last = before(first)
    const day = new Intl.DateTimeFormat('en-GB', { timeZone: zone, day: 'numeric' })
    return midnight(last, zone, 1 - Number(day.format(last + 12 * HOUR)))
  }
  switch (span) {
    case 'today':
      return { from: today, to: now }
    case 'yesterday':
      return { from: before(today), to: today }
    case 'this week':
      return { from: monday, to: now }
    case 'last week':
      return { from: midnight(now, zone, -weekday - 7), to: monday }
    case 'this month':
      return { from: first, to: now }
    case 'last month':
      return { from: firstBefore(), to: first }
    default:
      return { from: midnight(now, zone, -365), to: now }
  }
}
