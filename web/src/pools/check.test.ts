import { describe, expect, it } from 'vitest'
import type { PoolCheck } from '@/api/types'
import { checkInWords } from './check'

const check = (more: Partial<PoolCheck>) =>
  ({
    labels: { pool: 'bookingPool' },
    verdict: 'agrees',
    inUse: 4.2,
    perSecond: 200,
    hold: 0.02,
    holdHigh: 0.025,
    expected: 4,
    notBack: 0,
    ...more,
  }) as PoolCheck

describe('the check of a pool', () => {
  it('tells what does not come back from what is held longer', () => {
    expect(checkInWords(check({}))).toBe(
      '200 /s held for 20.0 ms each explain the 4.2 in use: all come back.',
    )
    expect(checkInWords(check({ verdict: 'not_coming_back', inUse: 20, notBack: 16 }))).toBe(
      '16 not coming back: 200 /s held for 20.0 ms each explain 4 in use, and 20 are.',
    )
    expect(checkInWords(check({ verdict: 'held_longer', hold: 0.16 }))).toBe(
      'Held longer than usual: 200 /s held for 160 ms each, usually at most 25.0 ms. What they are lent for is slow.',
    )
    expect(checkInWords(check({ verdict: 'too_little' }))).toContain('Too little')
    expect(checkInWords(check({ verdict: 'not_told', hold: null }))).toContain('does not tell')
  })
})
