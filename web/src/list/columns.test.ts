import { describe, expect, it } from 'vitest'
import { lines, sorted, wayOf, type Column } from './columns'

type Row = { name: string; size: number | null }
const COLUMNS: Column<Row>[] = [
  { key: 'name', title: 'Name', by: (row) => row.name },
  { key: 'size', title: 'Size', n: true, by: (row) => row.size },
  { key: 'plain', title: 'Plain' },
]
const ROWS: Row[] = [
  { name: 'b', size: 2 },
  { name: 'a', size: null },
  { name: 'c', size: 10 },
  { name: 'd', size: 2 },
]
const names = (rows: Row[]) => rows.map((row) => row.name).join('')

describe('the columns of a list', () => {
  it('sort names from A, numbers from the greatest, and the other way round', () => {
    expect(names(sorted(ROWS, COLUMNS, 'name'))).toBe('abcd')
    expect(names(sorted(ROWS, COLUMNS, '-name'))).toBe('dcba')
    expect(wayOf(COLUMNS[1]!, 'size')).toBe('descending')
    expect(wayOf(COLUMNS[1]!, '-size')).toBe('ascending')
    expect(wayOf(COLUMNS[1]!, 'name')).toBeUndefined()
  })

  it('put what has no number last either way, and leave equals as they were', () => {
    expect(names(sorted(ROWS, COLUMNS, 'size'))).toBe('cbda')
    expect(names(sorted(ROWS, COLUMNS, '-size'))).toBe('bdca')
  })

  it('leave the order alone where a column has none', () => {
    expect(sorted(ROWS, COLUMNS, '')).toBe(ROWS)
    expect(sorted(ROWS, COLUMNS, 'plain')).toBe(ROWS)
  })

  it('fold what looks the same behind the first of them, until it is unfolded', () => {
    const alike = (row: Row) => (row.size === null ? '' : `${row.size}`)
    const folded = lines(ROWS, (row) => row.name, alike, new Set())
    expect(folded.map((line) => [line.key, line.folded])).toEqual([
      ['b', 1],
      ['a', 0],
      ['c', 0],
    ])
    expect(lines(ROWS, (row) => row.name, alike, new Set(['2']))).toHaveLength(4)
    expect(lines(ROWS, (row) => row.name, undefined, new Set())).toHaveLength(4)
  })
})
