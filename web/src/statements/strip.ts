import { seconds } from '@/text/format'

/** What is picked of a strip: ends of executions, epoch ms, and half decades of their length. */
export type Pick = { begin: number; end: number; lowest: number; highest: number }

/** The first half decade is that of 1 ms. */
export const ROWS = 15
export const edgeMs = (row: number) => 10 ** (row / 2)
/** The half decade in which a length lies. */
export const rowOf = (ms: number) =>
  Math.min(ROWS - 1, Math.max(0, Math.floor(2 * Math.log10(Math.max(1, ms)) + 1e-9)))

/** As it stands in the address; empty for nothing. */
export const asText = (pick: Pick | undefined) =>
  pick ? [pick.begin, pick.end, pick.lowest, pick.highest].map(Math.round).join('-') : ''

export function fromText(text: string): Pick | undefined {
  const [begin, end, lowest, highest] = text.split('-').map(Number)
  const whole = [begin, end, lowest, highest].every((n) => Number.isInteger(n))
  return whole && text.split('-').length === 4
    ? { begin: begin ?? 0, end: end ?? 0, lowest: lowest ?? 0, highest: highest ?? 0 }
    : undefined
}

/** Rows that are shown: those that are looked for, and up to what there is, ten seconds at least. */
export function rowsShown(leastMs: number, cells: { row: number }[]): number[] {
  const lowest = Math.max(0, rowOf(leastMs) - 2)
  const highest = Math.max(8, ...cells.map((cell) => cell.row + 1))
  return Array.from({ length: Math.min(ROWS - 1, highest) - lowest + 1 }, (_, i) => lowest + i)
}

/** Moves a pick by steps and rows, or stretches it: it stays within. */
export function moved(
  pick: Pick,
  by: { steps: number; rows: number },
  stretch: boolean,
  within: { from: number; to: number; stepMs: number; rows: number[] },
): Pick {
  const { from, to, stepMs, rows } = within
  const [least, most] = [rows[0] ?? 0, rows.at(-1) ?? 0]
  const ms = by.steps * stepMs
  if (stretch) {
    const end = Math.min(to, Math.max(pick.begin + stepMs, pick.end + ms))
    const highest = Math.min(most, Math.max(pick.lowest, pick.highest + by.rows))
    return { ...pick, end, highest }
  }
  const shift = Math.min(to - pick.end, Math.max(from - pick.begin, ms))
  const up = Math.min(most - pick.highest, Math.max(least - pick.lowest, by.rows))
  return {
    begin: pick.begin + shift,
    end: pick.end + shift,
    lowest: pick.lowest + up,
    highest: pick.highest + up,
  }
}

/** How long, in words: exactly where it was logged, else between two samples. */
export function length(one: { leastMs: number; mostMs: number | null; ending: string }): string {
  const least = seconds(one.leastMs / 1000)
  if (one.ending === 'cancelled' && one.leastMs === 0) return 'not told'
  if (one.mostMs === null) return `${least} so far`
  return one.mostMs === one.leastMs ? least : `${least} – ${seconds(one.mostMs / 1000)}`
}
