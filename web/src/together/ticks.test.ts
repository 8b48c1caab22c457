import { describe, expect, it } from 'vitest'
import { farthestOf, ticksOf } from './ticks'

describe('ink by distance from normal', () => {
  it('goes up for above and down for below, as far as eight spreads', () => {
    expect(ticksOf([7, 7, 7], [4, -2, 40])).toEqual({
      near: '',
      off: 'M1.5 1V1.25',
      far: 'M0.5 1V0.5M2.5 1V0',
      gaps: [],
    })
  })

  it('is a dot where all is as always, or no normal is known', () => {
    expect(ticksOf([7, 7], [0, null]).near).toBe('M0.5 1V0.94M1.5 1V0.94')
  })

  it('is a gap where there is no value, never a line across it', () => {
    const told = ticksOf([null, null, 7, null], [null, null, 9, null])
    expect(told.gaps).toEqual([
      { from: 0, to: 2 },
      { from: 3, to: 4 },
    ])
    expect(told.far).toBe('M2.5 1V0')
  })

  it('was farthest where it had left its normal', () => {
    expect(farthestOf([1, -5, 9, null, 4])).toBe(2)
    expect(farthestOf([1, -9, 9])).toBe(1)
    expect(farthestOf([1, null, 3.9])).toBeUndefined()
  })
})
