import { ref } from 'vue'

/** Numbers and times as a person reads them. Units as the counters declare them. */

const BINARY = ['B', 'KiB', 'MiB', 'GiB', 'TiB', 'PiB']

function three(value: number): string {
  const size = Math.abs(value)
  if (size === 0) return '0'
  if (size >= 100) return Math.round(value).toString()
  // what rounds up to the next power of ten has a digit less behind the point
  const digits = Math.max(0, 2 - Math.floor(Math.log10(Number(size.toPrecision(3)))))
  return value.toFixed(Math.min(digits, 6))
}

function grouped(value: number): string {
  return value.toString().replace(/\B(?=(\d{3})+(?!\d))/g, '\u202f')
}

function scaled(value: number): string {
  const size = Math.abs(value)
  if (size >= 1e9) return `${three(value / 1e9)} G`
  if (size >= 1e6) return `${three(value / 1e6)} M`
  if (size >= 1e5) return `${three(value / 1e3)} k`
  return size >= 1000 ? grouped(Math.round(value)) : three(value)
}

function bytes(value: number): string {
  let step = 0
  let rest = value
  while (Math.abs(rest) >= 1024 && step < BINARY.length - 1) {
    rest /= 1024
    step++
  }
  return `${step === 0 ? Math.round(rest) : three(rest)} ${BINARY[step]}`
}

export function seconds(value: number): string {
  const size = Math.abs(value)
  if (size === 0) return '0 s'
  if (size < 1e-3) return `${three(value * 1e6)} µs`
  if (size < 1) return `${three(value * 1e3)} ms`
  if (size < 300) return `${three(value)} s`
  if (size < 2 * 3600) return `${three(value / 60)} min`
  if (size < 2 * 86400) return `${three(value / 3600)} h`
  return `${three(value / 86400)} d`
}

/** Whole counts exact to 99 999, others three significant figures, with unit. */
export function number(value: number, unit: string): string {
  switch (unit) {
    case 's':
      return seconds(value)
    case 's/s':
      return `${seconds(value)}/s`
    case 'B':
      return bytes(value)
    case 'B/s':
      return `${bytes(value)}/s`
    case '%':
      return `${percent(value)} %`
    case '':
      return Number.isInteger(value) && Math.abs(value) < 100_000
        ? value >= 10_000
          ? grouped(value)
          : value.toString()
        : scaled(value)
    default:
      return `${scaled(value)} ${unit}`
  }
}

/** Without trailing zeros: a number that somebody set. */
export function plain(value: number, unit: string): string {
  return number(value, unit)
    .replace(/(\.\d*?)0+(?=\D|$)/, '$1')
    .replace(/\.(?=\D|$)/, '')
}

/** On an axis: without the "per second" and without trailing zeros. */
export const onAxis = (value: number, unit: string) => plain(value, unit.replace('/s', ''))

/** Nothing short of the whole rounds up to it: 99.96 % is not 100 %. */
function percent(value: number): string {
  const text = three(value)
  if (value < 100 && Number(text) >= 100) return (Math.floor(value * 100) / 100).toFixed(2)
  return text
}

/** Two numbers with the unit once where both have the same: 3.80 – 6.10 ms; one where they read alike. */
export function range(low: number, high: number, unit: string): string {
  const [a, b] = [number(low, unit), number(high, unit)]
  if (a === b) return a
  const tail = / ?[^\d\s\u202f]+$/.exec(a)?.[0]
  return tail && b.endsWith(tail) ? `${a.slice(0, -tail.length)} – ${b}` : `${a} – ${b}`
}

/** "since 02:10 (34 min)", both. */
export function since(at: number, now: number): string {
  const when = day(at) === day(now) ? clock(at) : `${day(at)} ${clock(at)}`
  return `since ${when} (${span(now - at)})`
}

/** Every digit, for hovering. */
export function exact(value: number, unit: string): string {
  return unit === '' ? value.toString() : `${value} ${unit}`
}

/** How long ago or how long, in one unit. */
export function span(millis: number): string {
  const s = Math.max(0, Math.round(millis / 1000))
  if (s < 120) return `${s} s`
  const min = Math.round(s / 60)
  if (min < 120) return `${min} min`
  const h = Math.round(min / 60)
  return h < 48 ? `${h} h` : `${Math.round(h / 24)} d`
}

/** The viewer's time zone. */
export const ownZone = Intl.DateTimeFormat().resolvedOptions().timeZone

/** The zone in which times are told: the viewer's, or that of the link that was opened. */
export const zone = ref(ownZone)

const HOUR = { hour: '2-digit', minute: '2-digit' } as const
const FORMATS = {
  clock: HOUR,
  seconds: { ...HOUR, second: '2-digit' },
  day: { weekday: 'short', day: 'numeric', month: 'short' },
  date: { day: 'numeric', month: 'short' },
  month: { month: 'short' },
  dated: { day: 'numeric', month: 'short', year: 'numeric' },
} as const
const made = new Map<string, Intl.DateTimeFormat>()

function told(at: number, as: keyof typeof FORMATS): string {
  const key = `${as} ${zone.value}`
  let format = made.get(key)
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', { ...FORMATS[as], timeZone: zone.value })
    made.set(key, format)
  }
  return format.format(at)
}

export const clock = (at: number) => told(at, 'clock')
export const clockWithSeconds = (at: number) => told(at, 'seconds')
export const day = (at: number) => told(at, 'day').replace(',', '')
export const date = (at: number) => told(at, 'date')
export const monthOf = (at: number) => told(at, 'month')
export const dated = (at: number) => told(at, 'dated')

/** A moment: with its day where that is not today. */
export const momentInWords = (at: number, now: number) =>
  day(at) === day(now) ? clockWithSeconds(at) : `${day(at)} ${clock(at)}`

/** "1 time", "3 times". */
export const many = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

/** A window in words: the day once where both ends share it. */
export function windowInWords(from: number, to: number): string {
  const short = to - from < 10 * 60_000 ? clockWithSeconds : clock
  return day(from) === day(to)
    ? `${day(from)}, ${short(from)} – ${short(to)}`
    : `${day(from)} ${short(from)} – ${day(to)} ${short(to)}`
}
