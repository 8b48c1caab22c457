import { describe, expect, it } from 'vitest'
import {
  alone,
  countersOf,
  format,
  listed,
  moved,
  onWholeBench,
  parse,
  resized,
  same,
  swapped,
  together,
  unlisted,
} from './arrangement'

const charts = ['a', 'b@2x1', 'c~pool=x@y', 'd'].map(parse)
const told = (list: ReturnType<typeof parse>[]) => list.map(format)

describe('an arrangement', () => {
  it('is written and read back, sizes only where they are larger', () => {
    expect(told(charts)).toEqual(['a', 'b@2x1', 'c~pool=x@y', 'd'])
    expect(charts[1]).toEqual({ key: 'b', beside: [], wide: 2, tall: 1 })
    // a label may hold the sign itself
    expect(charts[2]).toEqual({ ...alone('c~pool=x@y'), wide: 1 })
  })

  it('keeps the signs that a label holds, however they stand in an address', () => {
    const odd = [alone('a~pool=x,y'), { ...alone('b~of=1&2'), beside: ['c~of=50%,9'], wide: 2 }]
    expect(unlisted(listed(odd))).toEqual(odd)
    expect(countersOf(odd)).toEqual(['a~pool=x,y', 'b~of=1&2', 'c~of=50%,9'])
    // what was kept before such signs were hidden is read as it stands
    expect(parse('a~used=50% of it').key).toBe('a~used=50% of it')
    expect(onWholeBench({ counter: 'a', labels: { pool: 'x,y' } }).big).toBe('a~pool=x%2Cy')
  })

  it('draws another counter in the same chart, and takes it out again', () => {
    const joined = together(charts, 'b', 'e')
    expect(told(joined)).toEqual(['a', 'b&e@2x1', 'c~pool=x@y', 'd'])
    expect(told(together(joined, 'b', 'f'))[1]).toBe('b&e&f@2x1')
    expect(told(together(joined, 'b', 'e'))).toEqual(told(charts))
    expect(together(charts, 'b', 'b')[1]).toEqual(charts[1])
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
