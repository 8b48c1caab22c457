import { describe, expect, it } from 'vitest'
import type { Leak } from '@/api/types'
import { leakInWords } from './leak'

const leak = (more: Partial<Leak>) =>
  ({ verdict: 'climbs', days: 6, perDay: 1.9, hoursLeast: 380, hoursMost: 520, ...more }) as Leak

describe('a leak', () => {
  it('is told with the range of when it is full', () => {
    expect(leakInWords(leak({}))).toBe(
      'A leak: for 6 days the floor has climbed by 1.9 % of the maximum a day. At that pace it is full in 16 days to 22 days.',
    )
    expect(leakInWords(leak({ hoursMost: null, hoursLeast: 30 }))).toContain(
      'full in 30 h at the earliest',
    )
  })

  it('is refused where the days do not carry it', () => {
    expect(leakInWords(leak({ verdict: 'too_few_days', days: 1 }))).toContain('there is 1 day.')
    expect(leakInWords(leak({ verdict: 'none', days: 14 }))).toBe(
      'No leak: over 14 days the floor does not climb day by day.',
    )
    expect(leakInWords(leak({ verdict: 'not_known' }))).toContain('No floor is read')
  })
})
