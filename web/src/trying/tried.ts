import type { Tried, TriedNumbers } from '@/api/types'
import { span } from '@/text/format'

export type Figure = { value: string; words: string }

/** In few digits: of alerts a week nobody wants to know the hundredth. */
export const aWeek = (n: number) =>
  n === 0 ? '0' : n < 0.1 ? '< 0.1' : n < 10 ? n.toFixed(1) : `${Math.round(n)}`

/** What it would have told, in a row of numbers. */
export function figuresOf(tried: Tried): Figure[] {
  const { incidents, alerts } = tried
  const caught = incidents.filter((one) => one.after !== null)
  const after = caught.map((one) => one.after ?? 0).sort((a, b) => a - b)
  const middle = after[Math.floor((after.length - 1) / 2)]
  const all = alerts.length
  return [
    { value: aWeek(tried.perWeek), words: 'alerts a week' },
    ...(tried.criticals ? [{ value: `${tried.criticals}`, words: 'became critical' }] : []),
    incidents.length
      ? { value: `${caught.length} of ${incidents.length}`, words: 'incidents caught' }
      : { value: '–', words: 'no incident is marked' },
    ...(middle === undefined ? [] : [{ value: span(middle), words: 'after they began' }]),
    { value: `${tried.without}`, words: 'without an incident' },
    { value: `${tried.atNight} of ${all}`, words: 'at night' },
    { value: span(tried.inAlert), words: 'in alert' },
  ]
}

/** Over how much it was tried. */
export const overWhat = (tried: Tried) =>
  `${span(tried.to - tried.from)} of ${tried.series === 1 ? 'this series' : `${tried.series} series`}${
    tried.leftOut ? `; ${tried.leftOut} more are not looked at` : ''
  }`

type Curve = TriedNumbers['points']

/** Where all incidents that can be caught are: from the first number to the last that does. */
export function catching(curve: Curve): { from: number; to: number; caught: number } | undefined {
  const most = Math.max(0, ...curve.map((point) => point.caught))
  const good = curve.filter((point) => point.caught === most)
  const [first, last] = [good[0], good.at(-1)]
  return most && first && last ? { from: first.number, to: last.number, caught: most } : undefined
}

/** The curve of noise in a box, as a path: the noisiest stands left, ten a week and more at the top. */
export function curvePath(curve: Curve, width: number, height: number) {
  const most = Math.min(10, Math.max(1, ...curve.map((point) => point.perWeek)))
  const y = (perWeek: number) => height - (Math.min(perWeek, most) / most) * height
  return {
    most,
    path: curve
      .map(
        (point, i) =>
          `${i ? 'L' : 'M'}${round(placeOf(curve, point.number) * width)} ${round(y(point.perWeek))}`,
      )
      .join(''),
    y,
  }
}

/** Where a number stands between the first and the last, 0 … 1. */
export function placeOf(curve: Curve, number: number) {
  const [first, last] = [curve[0]?.number ?? 0, curve.at(-1)?.number ?? 1]
  return Math.max(0, Math.min(1, (number - first) / (last - first || 1)))
}
const round = (n: number) => Math.round(n * 10) / 10
