import { describe, expect, it } from 'vitest'
import { format, moved, parse, resized, same, swapped } from './arrangement'

const charts = ['a', 'b@2x1', 'c~pool=x@y', 'd'].map(parse)
const told = (list: ReturnType<typeof parse>[]) => list.map(format)

describe('an arrangement', () => {
  it('is written and read back, sizes only where they are larger', () => {
    expect(told(charts)).toEqual(['a', 'b@2x1', 'c~pool=x@y', 'd'])
    expect(charts[1]).toEqual({ key: 'b', wide: 2, tall: 1 })
    // a label may hold the sign itself
    expect(charts[2]).toEqual({ key: 'c~pool=x@y', wide: 1, tall: 1 })
  })

  it('moves one, and those between make room', () => {
    expect(told(moved(charts, 'a', 2))).toEqual(['b@2x1', 'c~pool=x@y', 'a', 'd'])
    expect(told(moved(charts, 'd', 0))).toEqual(['d', 'a', 'b@2x1', 'c~pool=x@y'])
    expect(told(moved(charts, 'a', -1))).toEqual(told(charts))
    expect(told(moved(charts, 'd', 9))).toEqual(told(charts))
    expect(moved(charts, 'none', 0)).toBe(charts)
  })

  it('resizes within three columns and two rows', () => {
    expect(told(resized(charts, 'a', 2, 2))[0]).toBe('a@2x2')
    expect(told(resized(charts, 'a', 7, 5))[0]).toBe('a@3x2')
    expect(told(resized(charts, 'b', 0, 0))[1]).toBe('b')
  })

  it('swaps a counter in its place, and two places where both are charted', () => {
    expect(told(swapped(charts, 'b', 'new'))[1]).toBe('new@2x1')
    expect(told(swapped(charts, 'a', 'b'))).toEqual(['b', 'a@2x1', 'c~pool=x@y', 'd'])
  })

  it('is the same only in order and size', () => {
    expect(same(charts, ['a', 'b@2x1', 'c~pool=x@y', 'd'].map(parse))).toBe(true)
    expect(same(charts, moved(charts, 'a', 1))).toBe(false)
    expect(same(charts, resized(charts, 'a', 2, 1))).toBe(false)
  })
})
