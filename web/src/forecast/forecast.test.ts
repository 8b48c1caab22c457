import { describe, expect, it } from 'vitest'
import type { Forecast } from '@/api/types'
import { forecastInWords } from './forecast'

const at = (date: string) => Date.parse(`${date}T12:00:00Z`)
const told = (over: Partial<Forecast>): Forecast => ({
  verdict: 'reaches',
  capacity: 100,
  capacityFrom: '',
  days: 35,
  from: 0,
  perDay: 0.8,
  now: 77,
  middle: at('2027-01-11'),
  soonest: at('2027-01-03'),
  latest: at('2027-01-20'),
  ...over,
})

describe('the forecast of daily peaks', () => {
  it('is a range of dates', () => {
    expect(forecastInWords(told({}), '%')).toBe(
      'The peaks of 35 days grow by 0.8 % a day: 100 % is reached between 3 Jan 2027 and 20 Jan 2027.',
    )
    expect(forecastInWords(told({ latest: null }), '%')).toContain(
      'reached 3 Jan 2027 at the earliest, or never',
    )
  })

  it('or not in sight, or reached, or refused', () => {
    const none = { middle: null, soonest: null, latest: null }
    expect(forecastInWords(told({ ...none, verdict: 'not_in_sight', perDay: 0 }), '%')).toBe(
      'The peaks of 35 days do not grow: 100 % is not in sight.',
    )
    expect(forecastInWords(told({ ...none, verdict: 'reached' }), '%')).toContain(
      'have reached 100 %',
    )
    expect(forecastInWords(told({ ...none, verdict: 'too_few_days', days: 1 }), '%')).toBe(
      'Not to be said yet: it takes 14 whole days, there is 1.',
    )
    expect(
      forecastInWords(told({ ...none, verdict: 'no_capacity', capacity: null, perDay: -2 }), ''),
    ).toBe('The peaks of 35 days fall by 2 a day. Up to what it may grow is not known: type it.')
  })
})
