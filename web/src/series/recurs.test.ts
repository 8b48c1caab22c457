import { expect, test } from 'vitest'
import { zone } from '@/text/format'
import { recursInWords } from './recurs'

const days = (n: number) => Array.from({ length: n }, (_, i) => ({ at: i, greatest: 3 }))
const night = Date.UTC(2026, 10, 20, 1, 10)

test('what comes back about its hour says on how many nights or days', () => {
  zone.value = 'Europe/Oslo'
  expect(recursInWords({ looked: 14, days: days(9), usual: null }, night)).toBe(
    'recurs, 9 of 14 nights',
  )
  expect(recursInWords({ looked: 11, days: days(2), usual: null }, night + 10 * 3_600_000)).toBe(
    'recurs, 2 of 11 days',
  )
  // 23:10 here is 05:10 there
  zone.value = 'Asia/Kolkata'
  expect(
    recursInWords({ looked: 14, days: days(5), usual: null }, Date.UTC(2026, 10, 20, 23, 10)),
  ).toBe('recurs, 5 of 14 nights')
  zone.value = 'Europe/Oslo'
})

test('once is no habit', () => {
  expect(recursInWords({ looked: 14, days: days(1), usual: null }, night)).toBe('')
  expect(recursInWords({ looked: 0, days: [], usual: null }, night)).toBe('')
})

test('what comes back at another hour says at which, in the zone of who looks', () => {
  zone.value = 'Europe/Oslo'
  const usual = { from: Date.UTC(2026, 10, 20, 1), days: 9, looked: 14 }
  const noon = night + 10 * 3_600_000
  expect(recursInWords({ looked: 14, days: [], usual }, noon)).toBe(
    'came between 02:00 and 03:00 on 9 of 14 nights',
  )
  zone.value = 'UTC'
  expect(recursInWords({ looked: 14, days: [], usual: { ...usual, looked: 11 } }, noon)).toBe(
    'came between 01:00 and 02:00 on 9 of 11 nights',
  )
  zone.value = 'Europe/Oslo'
  const late = { from: Date.UTC(2026, 10, 20, 22, 15), days: 2, looked: 14 }
  expect(recursInWords({ looked: 14, days: days(1), usual: late }, night)).toBe(
    'came between 23:15 and 00:15 on 2 of 14 nights',
  )
})
