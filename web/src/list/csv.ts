/** A column of a file: its name and what stands in it. */
export type CsvColumn<T> = [name: string, of: (row: T) => string | number | null | undefined]

/** A table program would run what begins like this. */
const FORMULA = /^[=+\-@\t\r]/

function cell(value: string | number | null | undefined): string {
  if (value === null || value === undefined) return ''
  if (typeof value === 'number') return `${value}`
  const safe = FORMULA.test(value) ? `'${value}` : value
  return /[",\n\r]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe
}

/** Rows as comma-separated values (RFC 4180): numbers in full, times as ISO 8601. */
export function toCsv<T>(columns: CsvColumn<T>[], rows: T[]): string {
  const lines = [
    columns.map(([name]) => cell(name)),
    ...rows.map((row) => columns.map(([, of]) => cell(of(row)))),
  ]
  return lines.map((line) => `${line.join(',')}\r\n`).join('')
}

export const iso = (at: number) => new Date(at).toISOString()
