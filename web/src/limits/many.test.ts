import { describe, expect, it } from 'vitest'
import type { Limit } from '@/api/types'
import { canBeTried, changed, differs, faultOf, type ManyChange } from './many'

const limit = (more: Partial<Limit> = {}): Limit => ({
  id: 1,
  counter: 'pool.waiting',
  labels: {},
  scope: { level: 'kind', of: 'appserver' },
  condition: 'above',
  warning: 10,
  critical: 20,
  hold: null,
  criticalHold: null,
  clear: { number: 8, seconds: null },
  criticalClear: null,
  against: null,
  on: null,
  offReason: '',
  offUntil: null,
  shipped: true,
  ...more,
})
const STAYS = { how: 'stays', number: null } as const
const change = (more: Partial<ManyChange>): ManyChange => ({
  warning: STAYS,
  critical: STAYS,
  state: 'stays',
  reason: '',
  until: null,
  ...more,
})

describe('several limits changed at once', () => {
  it('multiplies what there is, and calm again with it', () => {
    const to = changed(limit(), change({ warning: { how: 'times', number: 1.1 } }))
    expect([to.warning, to.critical, to.clear.number]).toEqual([11, 20, 8.8])
    const none = changed(limit({ warning: null }), change({ warning: { how: 'times', number: 2 } }))
    expect([none.warning, none.clear.number]).toEqual([null, 8])
  })

  it('sets a number, and works calm again out anew where it would be on the wrong side', () => {
    const set = (number: number, of = limit()) =>
      changed(of, change({ warning: { how: 'set', number } }))
    expect(set(9).clear.number).toBe(8)
    expect(set(5).clear.number).toBeNull()
    expect(set(7, limit({ condition: 'below', clear: { number: 12, seconds: 60 } })).clear).toEqual(
      {
        number: 12,
        seconds: 60,
      },
    )
    expect(
      set(15, limit({ condition: 'below', clear: { number: 12, seconds: 60 } })).clear.number,
    ).toBeNull()
  })

  it('switches off with a reason and an end, and on again', () => {
    const off = changed(limit(), change({ state: 'off', reason: 'moving house', until: 99 }))
    expect([off.on, off.offReason, off.offUntil]).toEqual([false, 'moving house', 99])
    const on = changed(limit({ ...off }), change({ state: 'on' }))
    expect([on.on, on.offReason, on.offUntil]).toEqual([null, '', null])
  })

  it('tells what stays, what cannot be, and what the past says nothing of', () => {
    const same = changed(limit(), change({}))
    expect(differs(limit(), same)).toBe(false)
    expect(differs(limit(), { ...same, warning: 11 })).toBe(true)
    expect(faultOf({ ...same, warning: 21 })).toContain('critical')
    expect(faultOf({ ...same, condition: 'below', warning: 30 })).toBe('')
    expect(canBeTried(same)).toBe(true)
    expect(canBeTried({ ...same, condition: 'silent' })).toBe(false)
    expect(canBeTried({ ...same, on: false })).toBe(false)
  })
})
