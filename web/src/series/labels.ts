import type { Instance, Series } from '@/api/types'

/** One thing that labels name on one instance, such as a pool, with its counters by key. */
export type Labelled = {
  id: string
  instance: Instance
  labels: Record<string, string>
  by: Record<string, Series>
}

/** Gathers the series of some counters by their labels, one row for each. */
export function byLabels(instance: Instance, series: Series[], prefix: string): Labelled[] {
  const found = new Map<string, Labelled>()
  for (const s of series) {
    if (!s.counter.startsWith(prefix)) continue
    const id = `${instance.id} ${JSON.stringify(s.labels)}`
    const row = found.get(id) ?? { id, instance, labels: s.labels, by: {} }
    row.by[s.counter.slice(prefix.length)] = s
    found.set(id, row)
  }
  return [...found.values()]
}

/** What labels name, in words: what they stand for where they do not say it themselves. */
export const labelsOf = (of: { labels: Record<string, string>; about?: string }) =>
  of.about || Object.values(of.labels).join(', ')

/** What its labels name; all where it has none. */
export const nameOf = (row: Labelled) => labelsOf(row) || 'all'

/** Time until a queue is empty at present rates, in seconds; infinite when it does not get shorter. */
export function drains(pending: number | null, came: number | null, left: number | null) {
  if (pending === null || came === null || left === null) return null
  if (pending === 0) return 0
  return left > came ? pending / (left - came) : Infinity
}
