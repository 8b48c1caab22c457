import { describe, expect, it } from 'vitest'
import { shareOfNormal } from './lines'

describe('a share of its own normal', () => {
  it('is how many times the middle of its normal a value is, and nothing where that is not known', () => {
    const share = shareOfNormal({
      series: 1,
      at: [0, 1, 2, 3],
      mean: [6, 2, null, 5],
      min: [3, 2, null, 5],
      max: [9, 2, null, 5],
      spans: [],
      normalLow: [2, 1, 1, null],
      normal: [3, 0, 4, null],
      normalHigh: [4.5, 2, 8, null],
      normalSince: null,
    })
    expect(share.mean).toEqual([2, null, null, null])
    expect(share.min).toEqual([1, null, null, null])
    expect(share.max).toEqual([3, null, null, null])
    expect(share.normal).toEqual([1, null, 1, null])
    expect(share.normalLow).toEqual([2 / 3, null, 0.25, null])
    expect(share.normalHigh).toEqual([1.5, null, 2, null])
  })
})
