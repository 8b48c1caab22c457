import { describe, expect, it } from 'vitest'
import type { Points, Series } from '@/api/types'
import { toldAt } from './toldAt'

const series = { interval: 10, value: 7, normalLow: 1, normalHigh: 2 } as Series
const points = {
  at: [10_000, 20_000, 30_000],
  mean: [1, 2, 3],
  normalLow: [0, 0, 0],
  normalHigh: [5, 6, 7],
  normalSince: null,
} as Partial<Points> as Points

describe('what a chart tells in words', () => {
  it('is the latest reading, or the last of a window that stands still', () => {
    expect(toldAt(series, points, undefined, true, 30_000)).toMatchObject({ value: 7, now: true })
    expect(toldAt(series, points, undefined, false, 25_000)).toMatchObject({
      value: 2,
      high: 6,
      now: false,
    })
  })

  it('says when its normal was learned where that was only afterwards', () => {
    const late = { ...points, normalSince: 25_000 }
    expect(toldAt(series, late, 20_500, false, 30_000).learned).toBe(25_000)
    expect(toldAt(series, late, 30_000, false, 30_000).learned).toBeNull()
    expect(toldAt(series, points, 20_500, false, 30_000).learned).toBeNull()
    expect(toldAt(series, late, undefined, true, 30_000).learned).toBeNull()
  })

  it('is at a moment the reading that holds there, and nothing where none does', () => {
    expect(toldAt(series, points, 29_999, true, 60_000).value).toBe(2)
    expect(toldAt(series, points, 55_000, true, 60_000).value).toBe(3)
    expect(toldAt(series, points, 55_001, true, 60_000).value).toBeNull()
    expect(toldAt(series, points, 9_999, true, 60_000).value).toBeNull()
  })
})
