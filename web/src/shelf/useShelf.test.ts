import { describe, expect, it } from 'vitest'
import type { Instance } from '@/api/types'
import { factOf, factParts, isSilent, unreadInWords } from './useShelf'

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

  it('counts those that are not read by how that is', () => {
    const all = ['silent', 'silent', 'failing', 'reading'].map((state) => instance({ state }))
    expect(unreadInWords(all)).toBe('2 silent, 1 not read')
    expect(all.map(isSilent)).toEqual([true, true, true, false])
  })
})
