/** A column of a table: what it shows stands in the slot of its key. */
export type Column<T> = {
  key: string
  title: string
  /** Numbers stand at the right. */
  n?: boolean
  /** For who can't see it only. */
  unseen?: boolean
  /** What it is sorted by; without, it is not. */
  by?: (row: T) => number | string | null | undefined
  /** Which way at first: names from A, numbers from the greatest. */
  first?: 'ascending' | 'descending'
}

/** What stands in one line: a row, and how many that look the same are folded behind it. */
export type Line<T> = { row: T; key: string; folded: number; alike: string }

const collator = new Intl.Collator()

/**
 * @param sort the key of a column; with a minus before it the other way round than at first
 * @returns a new list; what a column says nothing of stands last, either way
 */
export function sorted<T>(rows: T[], columns: Column<T>[], sort: string): T[] {
  const column = columns.find((c) => c.key === sort.replace(/^-/, ''))
  if (!column?.by) return rows
  const by = column.by
  const turn = wayOf(column, sort) === 'ascending' ? 1 : -1
  return rows
    .map((row, i) => ({ row, i, value: by(row) ?? null }))
    .sort((a, b) => {
      if (a.value === null || b.value === null)
        return Number(a.value === null) - Number(b.value === null) || a.i - b.i
      const less =
        typeof a.value === 'number' && typeof b.value === 'number'
          ? a.value - b.value
          : collator.compare(`${a.value}`, `${b.value}`)
      return turn * less || a.i - b.i
    })
    .map(({ row }) => row)
}

export function wayOf<T>(column: Column<T>, sort: string): 'ascending' | 'descending' | undefined {
  const first = column.first ?? (column.n ? 'descending' : 'ascending')
  if (sort === column.key) return first
  if (sort !== `-${column.key}`) return undefined
  return first === 'ascending' ? 'descending' : 'ascending'
}

/** Rows that look the same stand once, with a count, where the first of them stands. */
export function lines<T>(
  rows: T[],
  keyOf: (row: T) => string,
  alike: ((row: T) => string) | undefined,
  unfolded: ReadonlySet<string>,
): Line<T>[] {
  if (!alike) return rows.map((row) => ({ row, key: keyOf(row), folded: 0, alike: '' }))
  const all: Line<T>[] = []
  const first = new Map<string, Line<T>>()
  for (const row of rows) {
    const look = alike(row)
    const before = look && !unfolded.has(look) ? first.get(look) : undefined
    if (before) {
      before.folded++
      continue
    }
    const line = { row, key: keyOf(row), folded: 0, alike: look }
    first.set(look, line)
    all.push(line)
  }
  return all
}
