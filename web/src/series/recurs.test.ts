import { expect, test } from 'vitest'
import { zone } from '@/text/format'
import { recursInWords } from './recurs'

const days = (n: number) => Array.from({ length: n }, (_, i) => ({ at: i, greatest: 3 }))
const night = Date.UTC(2026, 10, 20, 1, 10)

test('what comes back about its hour says on how many nights or days', () => {
  zone.value = 'Europe/Oslo'
  expect(recursInWords({ looked: 14, days: days(9) }, night)).toBe('recurs, 9 of 14 nights')
  expect(recursInWords({ looked: 11, days: days(2) }, night + 10 * 3_600_000)).toBe(
    'recurs, 2 of 11 days',
  )
  // 23:10 here is 05:10 there
  zone.value = 'Asia/Kolkata'
  expect(recursInWords({ looked: 14, days: days(5) }, Date.UTC(2026, 10, 20, 23, 10))).toBe(
    'recurs, 5 of 14 nights',
  )
  zone.value = 'Europe/Oslo'
})

test('once is no habit', () => {
  expect(recursInWords({ looked: 14, days: days(1) }, night)).toBe('')
  expect(recursInWords({ looked: 0, days: [] }, night)).toBe('')
})
