import { describe, expect, it } from 'vitest'
import type { Instance } from '@/api/types'
import { factOf, factParts, isSilent, outsideOf, unreadInWords } from './useShelf'

const instance = (state: object) =>
  ({
    id: 1,
    name: 'a',
    state: { state: 'reading', reason: '', facts: [], ...state },
  }) as unknown as Instance
const floor = { title: 'Heap floor', value: 46.2, unit: '%' }

describe('the fact beside a name', () => {
  it('says of what it is', () => {
    expect(factParts(instance({ facts: [floor] }))).toEqual({ of: 'heap floor', value: '46.2 %' })
    expect(factOf(instance({ facts: [floor] }))).toBe('heap floor 46.2 %')
  })

  it('is why there is none, before all else', () => {
    expect(factOf(instance({ state: 'silent', reason: 'no answer', facts: [floor] }))).toBe(
      'no answer',
    )
    expect(factOf(instance({ state: 'paused', facts: [floor] }))).toBe('paused')
    expect(factOf(instance({ restart: 'max_connections', facts: [floor] }))).toBe('↻ restart due')
    expect(factOf(instance({}))).toBe('first reading …')
  })

  it('says what is outside its normal, with that', () => {
    const outside = {
      title: 'Pool in use · bookingPool',
      value: 71,
      unit: '%',
      distance: 7.2,
      low: 4,
      high: 9,
    }
    expect(outsideOf(instance({ outside }))).toEqual({
      kind: 'outside',
      sign: '▵ 7.2×',
      fact: '71.0 % pool in use · bookingPool · normal 4.00 – 9.00 %',
    })
    expect(outsideOf(instance({ outside: null }))).toBeUndefined()
    expect(outsideOf(instance({ outside, state: 'paused' }))).toBeUndefined()
  })

  it('counts those that are not read by how that is', () => {
    const all = ['silent', 'silent', 'failing', 'reading'].map((state) => instance({ state }))
    expect(unreadInWords(all)).toBe('2 silent, 1 not read')
    expect(all.map(isSilent)).toEqual([true, true, true, false])
  })
})
