import { keyOf, type SeriesKey } from '@/series/useSeries'

/**
 * The charts of Now in their order, each with its size in columns and rows; `beside` are the
 * counters that are drawn in the same chart.
 */
export type Placed = { key: string; beside: string[]; wide: number; tall: number }

export const WIDEST = 3
export const TALLEST = 2
const SIZE = /@([1-3])x([12])$/

/** Signs that mean something between counters: in the value of a label they do not. */
const MEANT = /[%,&]/g
const hidden = (key: string) => key.replace(MEANT, encodeURIComponent)
const shown = (text: string) => text.replace(/%(25|2C|26)/g, decodeURIComponent)

/**
 * As it stands in the address and in the store: the counter, those beside it, and its size where it
 * is larger.
 */
export function parse(text: string): Placed {
  const size = SIZE.exec(text)
  const [key = '', ...beside] = text.replace(SIZE, '').split('&').map(shown)
  return { key, beside, wide: Number(size?.[1] ?? 1), tall: Number(size?.[2] ?? 1) }
}
export const format = (p: Placed) =>
  [p.key, ...p.beside].map(hidden).join('&') +
  (p.wide === 1 && p.tall === 1 ? '' : `@${p.wide}x${p.tall}`)

/** A chart of one counter, of its first size. */
export const alone = (key: string): Placed => ({ key, beside: [], wide: 1, tall: 1 })

/** One chart on the whole bench, as a link asks for it. */
export function onWholeBench(of: SeriesKey, edit?: 'limit') {
  const big = format(alone(keyOf(of)))
  return { big, charts: big, edit }
}

/** Several charts as the address has them. */
export const listed = (charts: Placed[]) => charts.map(format).join(',')
export const unlisted = (text: string) => text.split(',').map(parse)

/** All counters of some charts. */
export const countersOf = (charts: Placed[]) => charts.flatMap((p) => [p.key, ...p.beside])

/** Another counter is drawn in the same chart, or no more. */
export const together = (charts: Placed[], key: string, other: string): Placed[] =>
  charts.map((p) =>
    p.key !== key || other === key
      ? p
      : {
          ...p,
          beside: p.beside.includes(other)
            ? p.beside.filter((one) => one !== other)
            : [...p.beside, other],
        },
  )

/** One goes to the place of another; those between make room. */
export function moved(charts: Placed[], key: string, to: number): Placed[] {
  const one = charts.find((p) => p.key === key)
  if (!one) return charts
  const rest = charts.filter((p) => p !== one)
  const at = Math.max(0, Math.min(rest.length, to))
  return [...rest.slice(0, at), one, ...rest.slice(at)]
}

/** The nearest size that a chart can have. */
export function fitting(wide: number, tall: number) {
  const within = (n: number, most: number) => Math.max(1, Math.min(most, Math.round(n)))
  return { wide: within(wide, WIDEST), tall: within(tall, TALLEST) }
}
export const resized = (charts: Placed[], key: string, wide: number, tall: number): Placed[] =>
  charts.map((p) => (p.key === key ? { ...p, ...fitting(wide, tall) } : p))

/** Another counter takes the place and the size; one that is charted already changes places with it. */
export function swapped(charts: Placed[], key: string, other: string): Placed[] {
  return charts.map((p) =>
    p.key === key ? { ...p, key: other } : p.key === other ? { ...p, key } : p,
  )
}

export const same = (a: Placed[], b: Placed[]) => a.map(format).join() === b.map(format).join()
