import { describe, expect, it } from 'vitest'
import type { LiveReading, Series } from '@/api/types'
import { firstView, keyOf, withReading } from './useSeries'
import { asOf } from './useThen'

const series = (id: number, of: Partial<Series> = {}) =>
  ({
    id,
    counter: `c${id}`,
    labels: {},
    first: -1,
    value: 1,
    why: '',
    distance: null,
    ...of,
  }) as Series

describe('series', () => {
  it('are told apart by their labels, and begin with those that are first', () => {
    expect(keyOf(series(1, { counter: 'pool.in_use', labels: { pool: 'a', node: 'b' } }))).toBe(
      'pool.in_use~pool=a~node=b',
    )
    expect(firstView([series(1, { first: 2 }), series(2), series(3, { first: 0 })])).toEqual([
      'c3',
      'c1',
    ])
  })

  it('take from a reading what it tells, and are the same objects where it tells nothing', () => {
    const list = [series(1), series(2), series(3, { value: 9 })]
    const reading: LiveReading = {
      instance: 7,
      at: 1000,
      series: [2, 1, 8],
      values: [null, 5, 3],
      why: ['none there', '', ''],
      distance: [null, 6.5, null],
    }
    const now = withReading(list, reading)
    expect(now.map((s) => [s.value, s.why, s.distance])).toEqual([
      [5, '', 6.5],
      [null, 'none there', null],
      [9, '', null],
    ])
    expect(now[2]).toBe(list[2])
    expect(list[0]!.value).toBe(1)
  })

  it('are as they were at a moment, with the normal of then', () => {
    const was = { series: 1, value: 4, normalLow: 3, normalHigh: 6 }
    expect(asOf(series(1, { distance: 8 }), was)).toMatchObject({
      value: 4,
      why: '',
      normalLow: 3,
      normalHigh: 6,
      distance: null,
    })
    expect(asOf(series(1), { ...was, value: null }).why).toBe('nothing then')
    expect(asOf(series(1), undefined).why).toBe('not fetched')
  })
})
