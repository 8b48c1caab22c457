import { describe, expect, it } from 'vitest'
import type { Session } from '@/api/types'
import { grouped } from './groups'

const session = (user: string, waitedMs: number | null, transactionMs: number | null) =>
  ({ user, waitedMs, transactionMs, blockers: [] as number[] }) as Session

describe('sessions of a moment put together', () => {
  const all = [session('a', 3, 9), session('b', null, null), session('a', 7, null)]

  it('have counts and shares that add up, the most first', () => {
    expect(grouped(all, 'user')).toEqual([
      { name: 'a', count: 2, share: 2 / 3, waitedMs: 7, transactionMs: 9 },
      { name: 'b', count: 1, share: 1 / 3, waitedMs: null, transactionMs: null },
    ])
  })

  it('are none where nothing is asked for', () => {
    expect(grouped(all, '')).toEqual([])
    expect(grouped([], 'user')).toEqual([])
  })
})
