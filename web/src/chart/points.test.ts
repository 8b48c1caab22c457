import { describe, expect, it } from 'vitest'
import type { Points } from '@/api/types'
import { extended, placeAt } from './points'
import { ends, near, nice } from './scale'

const points = (at: number[]): Points => ({
  series: 1,
  at,
  mean: at.map(() => 1),
  min: at.map(() => 1),
  max: at.map(() => 1),
  spans: [],
  normalLow: at.map(() => 0),
  normal: at.map(() => 1),
  normalHigh: at.map(() => 2),
  normalSince: null,
})

describe('points', () => {
  it('go on without a gap after the steps of a wide window, and with one after a silence', () => {
    const minute = 60_000
    const steps = points([0, 30, 60, 90].map((n) => n * minute))
    expect(extended(steps, 110 * minute, 5, 0, 10_000).mean).toEqual([1, 1, 1, 1, 5])
    expect(extended(steps, 180 * minute, 5, 0, 10_000).mean).toEqual([1, 1, 1, 1, null, 5])
    const read = points([0, 10_000, 20_000])
    expect(extended(read, 50_000, 5, 0, 10_000).mean).toEqual([1, 1, 1, null, 5])
    expect(extended(read, 40_000, 5, 0, 10_000).mean).toEqual([1, 1, 1, 5])
  })

  it('finds the reading that holds at a moment', () => {
    const p = points([10, 20, 30])
    expect(placeAt(p, 9)).toBe(-1)
    expect(placeAt(p, 20)).toBe(1)
    expect(placeAt(p, 29)).toBe(1)
    expect(placeAt(p, 99)).toBe(2)
  })

  it('adds a live reading once, and a gap after a silence', () => {
    const once = extended(points([10_000]), 20_000, 5, 0, 10_000)
    expect(once.mean).toEqual([1, 5])
    expect(extended(once, 20_000, 6, 0, 10_000)).toBe(once)
    expect(extended(once, 60_000, 7, 0, 10_000).mean).toEqual([1, 5, null, 7])
  })

  it('drops what left the window', () => {
    const many = points([0, 10_000, 20_000, 100_000])
    expect(extended(many, 110_000, 2, 90_000, 10_000).at).toEqual([100_000, 110_000])
  })
})

describe('scale', () => {
  it('begins at zero, but not for a ratio near 100', () => {
    expect(ends([3, 41], '', 0)).toEqual({ min: 0, max: 50 })
    expect(ends([99.1, 99.6], '%', 100)).toEqual({ min: 98, max: 100 })
    expect(ends([], '%', 0)).toEqual({ min: 0, max: 100 })
  })

  it('makes room for a limit that is near, not for one far off', () => {
    expect(near([10, 25, 1800], [2, 6], 0)).toEqual([10, 25])
    expect(near([90, 75], [98], 100)).toEqual([90])
  })

  it('counts long times in minutes and hours', () => {
    expect(ends([310], 's', 0).max).toBe(480)
    expect(ends([7300], 's', 0).max).toBe(4 * 3600)
  })

  it('ends at a round number', () => {
    expect(nice(41)).toBe(50)
    expect(nice(100)).toBe(100)
    expect(nice(0.012)).toBeCloseTo(0.02)
  })
})
