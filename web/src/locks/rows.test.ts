import { describe, expect, it } from 'vitest'
import type { LockNode, LockRoot, Locks, Session } from '@/api/types'
import { rowsOf } from './rows'

const session = (pid: number) =>
  ({ pid, user: 'desk', program: 'booking', statement: 'ab', blockers: [] }) as unknown as Session
const node = (pid: number, depth: number, of: Partial<LockNode> = {}): LockNode =>
  ({
    session: session(pid),
    depth,
    under: 0,
    leaf: true,
    ahead: false,
    wants: 'sailing',
    mode: 'RowShareLock',
    reference: false,
    frees: 0,
    ...of,
  }) as LockNode
const locks = (roots: Partial<LockRoot>[]) => ({ roots }) as unknown as Locks

describe('the lines of the forest', () => {
  it('stand below whom they wait for, by the way to them', () => {
    const rows = rowsOf(
      locks([
        {
          pid: 1,
          session: session(1),
          below: [node(2, 1, { leaf: false }), node(3, 2), node(4, 1)],
        },
        { pid: 9, session: null, below: [node(4, 1, { reference: true })] },
      ]),
    )
    expect(rows.map((row) => [row.key, row.depth])).toEqual([
      ['1', 0],
      ['1/2', 1],
      ['1/2/3', 2],
      ['1/4', 1],
      ['9', 0],
      ['9/4', 1],
    ])
    expect(rows[4]?.session).toBeUndefined()
  })

  it('fold where they wait for the same of the same and hold up nobody', () => {
    const rows = rowsOf(
      locks([
        {
          pid: 1,
          session: session(1),
          below: [
            node(2, 1),
            node(3, 1),
            node(4, 1, { wants: 'a row of berth' }),
            node(5, 1, { leaf: false }),
            node(6, 2),
            node(7, 1, { reference: true }),
          ],
        },
      ]),
    )
    const alike = rows.map((row) => row.alike)
    expect(alike[1]).toBe(alike[2])
    expect(new Set([alike[1], alike[3], alike[5]]).size).toBe(3)
    expect([alike[0], alike[4], alike[6]]).toEqual(['', '', ''])
  })
})
