import { describe, expect, it } from 'vitest'
import type { Instance, Series } from '@/api/types'
import { byLabels, drains } from './labels'

const series = (counter: string, labels: Record<string, string>, value: number) =>
  ({ counter, labels, value }) as unknown as Series

describe('byLabels', () => {
  it('makes one row of each pool with its counters', () => {
    const rows = byLabels(
      { id: 3 } as Instance,
      [
        series('pool.in_use', { pool: 'a' }, 4),
        series('pool.max', { pool: 'a' }, 20),
        series('pool.in_use', { pool: 'b' }, 1),
        series('queue.pending', { queue: 'a' }, 9),
      ],
      'pool.',
    )
    expect(rows.map((r) => [r.labels.pool, r.by.in_use?.value, r.by.max?.value])).toEqual([
      ['a', 4, 20],
      ['b', 1, undefined],
    ])
  })
})

describe('drains', () => {
  it('divides what waits by what it gets shorter a second', () => {
    expect(drains(120, 4, 10)).toBe(20)
  })
  it('never ends when as much comes as goes', () => {
    expect(drains(120, 4, 4)).toBe(Infinity)
  })
  it('is at once for an empty queue, even with nothing going out', () => {
    expect(drains(0, 1, 0)).toBe(0)
  })
  it('is not known without a rate', () => {
    expect(drains(120, null, 10)).toBeNull()
  })
})
