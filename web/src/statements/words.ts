import type { StatementRow } from '@/api/types'
import { number } from '@/text/format'

/** What statements are ordered by, the most first; what is not in a column of its own gets one. */
export type Order = {
  key: string
  words: string
  column?: { title: string; of: (row: StatementRow) => string }
}

const perCall = (value: number | null) => (value === null ? '' : number(value, ''))
export const ORDERS: Order[] = [
  { key: 'time', words: 'total time' },
  { key: 'mean', words: 'mean' },
  { key: 'calls', words: 'calls' },
  {
    key: 'rows',
    words: 'rows',
    column: { title: 'Rows', of: (r) => number(r.rowsPerSecond, '/s') },
  },
  { key: 'rows_per_call', words: 'rows per call' },
  {
    key: 'reads',
    words: 'blocks read',
    column: { title: 'Blocks read', of: (r) => number(r.readsPerSecond, '/s') },
  },
  {
    key: 'blocks_per_call',
    words: 'blocks per call',
    column: { title: 'Blocks per call', of: (r) => perCall(r.blocksPerCall) },
  },
  {
    key: 'temporary',
    words: 'temporary',
    column: { title: 'Temporary blocks', of: (r) => number(r.temporaryPerSecond, '/s') },
  },
]
export const ROWS_PER_CALL = {
  title: 'Rows per call',
  of: (r: StatementRow) => perCall(r.rowsPerCall),
}

/** What a window is compared with: how long before it that begins. */
export const VERSUS = [
  { key: 'week', words: 'the same time a week before', ms: () => 7 * 86_400_000 },
  { key: 'day', words: 'the same time a day before', ms: () => 86_400_000 },
  { key: 'before', words: 'the time just before it', ms: (width: number) => width },
]

/** Statement time per second, in ms of it: with a sign, for it is a change. */
export function change(secondsPerSecond: number): string {
  const ms = Math.abs(secondsPerSecond * 1000)
  const words = ms.toFixed(ms < 10 ? 2 : ms < 100 ? 1 : 0).replace(/\.0+$/, '')
  return Number(words) === 0 ? '0' : `${secondsPerSecond < 0 ? '−' : '+'}${words}`
}

/** A change in words, as it is read out. */
export function changeInWords(row: StatementRow): string {
  const { kind, moreOften, slower, total } = row.change
  if (kind === 'new') return `new: ${change(total)}`
  if (kind === 'vanished') return `gone: ${change(total)}`
  if (kind === 'both') return `${change(moreOften)} and ${change(slower)}`
  return ''
}
