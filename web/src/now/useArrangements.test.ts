import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import type { Arrangement, Instance } from '@/api/types'
import { useArrangements } from './useArrangements'

vi.mock('@/api/client', () => ({
  api: { arrangements: vi.fn(), keepArrangement: vi.fn(), forgetArrangement: vi.fn() },
}))

const jvm = { id: 7, kind: 'jvm' } as Instance
const other = { id: 8, kind: 'jvm' } as Instance
const kept: Arrangement[] = []

describe('arrangements', () => {
  beforeEach(() => {
    kept.length = 0
    vi.mocked(api.arrangements).mockImplementation(async () => [...kept])
    vi.mocked(api.keepArrangement).mockImplementation(async (body) => {
      kept.push(body)
      return body
    })
    vi.mocked(api.forgetArrangement).mockImplementation(async (reach, of) => {
      kept.splice(
        kept.findIndex((a) => a.reach === reach && a.of === of),
        1,
      )
    })
  })

  it('of an instance go before those of its kind', async () => {
    const { keep, forget, of } = useArrangements()
    await keep({ reach: 'kind', of: 'jvm', charts: ['a'] })
    await keep({ reach: 'instance', of: '7', charts: ['b'] })
    expect(of(jvm)?.charts).toEqual(['b'])
    expect(of(other)?.charts).toEqual(['a'])
    expect(of({ id: 9, kind: 'postgresql' } as Instance)).toBeUndefined()
    await forget({ reach: 'instance', of: '7', charts: [] })
    expect(of(jvm)?.charts).toEqual(['a'])
  })

  it('stay as they were known when they cannot be fetched', async () => {
    const { keep, reload, of } = useArrangements()
    await keep({ reach: 'kind', of: 'jvm', charts: ['a'] })
    vi.mocked(api.arrangements).mockRejectedValue(new Error('gone'))
    await reload()
    expect(of(jvm)?.charts).toEqual(['a'])
  })
})
