import type { BaselineWeek, Points } from '@/api/types'

/** The week in its instance's zone, as words and points. */
export const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
const QUARTER = 15 * 60_000
const SLOTS_A_DAY = 96

/** A slot's time of day; of the end of one, the begin of the next. */
const clockOf = (slot: number) => {
  const quarter = slot % SLOTS_A_DAY
  const two = (n: number) => `${n}`.padStart(2, '0')
  return `${two(Math.floor(quarter / 4))}:${two((quarter % 4) * 15)}`
}

/** Quarter-hours in a row: "Tuesday 02:00 – 03:00", "Monday 22:00 – Tuesday 01:00". */
export function slotsInWords(first: number, last: number): string {
  const end = (last + 1) % (7 * SLOTS_A_DAY)
  const from = DAYS[Math.floor(first / SLOTS_A_DAY)] ?? ''
  const to = DAYS[Math.floor(last / SLOTS_A_DAY)] ?? ''
  if (from !== to) return `${from} ${clockOf(first)} – ${to} ${clockOf(end)}`
  const until = end % SLOTS_A_DAY === 0 ? '24:00' : clockOf(end)
  return first % SLOTS_A_DAY === 0 && end % SLOTS_A_DAY === 0
    ? from
    : `${from} ${clockOf(first)} – ${until}`
}

/** The week that is shown over what is normal in it, as a chart draws it. */
export function weekPoints(week: BaselineWeek, now: number): Points {
  const spans: Points['spans'] = []
  week.mean.forEach((value, i) => {
    const from = week.at[i] ?? 0
    if (value !== null || from >= now) return
    const last = spans.at(-1)
    if (last && last.to === from) last.to = from + QUARTER
    else spans.push({ from, to: from + QUARTER, why: 'not read' })
  })
  return {
    series: 0,
    at: week.at.map((at) => at + QUARTER / 2),
    mean: week.mean,
    min: week.mean,
    max: week.mean,
    normalLow: week.low,
    normal: week.middle,
    normalHigh: week.high,
    normalSince: null,
    spans,
  }
}

/** By what the quarter-hours are served, the most first. */
export const basesInWords = (bases: BaselineWeek['bases']) =>
  bases
    .map((one, i) => `${one.slots}${i === 0 ? ' of 672 quarter-hours' : ''} from ${one.basis}`)
    .join(', ')
    .replace('from still learning', 'still learning')

/** How far the baseline has moved: in spreads, and whether that matters. */
export function driftInWords(drift: number | null): string {
  if (drift === null) return 'not known of this counter'
  const size = Math.abs(drift)
  const sign = drift < 0 ? '−' : '+'
  const words = `${sign}${size.toFixed(1)} spreads`
  return size < 1 ? `${words}: no drift that matters` : words
}
