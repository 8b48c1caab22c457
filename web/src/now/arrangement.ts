/** The charts of Now in their order, each with its size in columns and rows. */
export type Placed = { key: string; wide: number; tall: number }

export const WIDEST = 3
export const TALLEST = 2
const SIZE = /@([1-3])x([12])$/

/** As it stands in the address and in the store: the counter, and its size where it is larger. */
export function parse(text: string): Placed {
  const size = SIZE.exec(text)
  return {
    key: text.replace(SIZE, ''),
    wide: Number(size?.[1] ?? 1),
    tall: Number(size?.[2] ?? 1),
  }
}
export const format = (p: Placed) =>
  p.wide === 1 && p.tall === 1 ? p.key : `${p.key}@${p.wide}x${p.tall}`

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
