import { expect, test } from 'vitest'
import type { TellingHours, TellingRule } from '@/api/types'
import { asTime, fitsInWords, fromTime, hoursInWords, stepsInWords, toInWords } from './words'

const ALWAYS: TellingHours = { days: [], from: 0, to: 0, holidays: 'as_any' }
const ALL: TellingRule = {
  name: 'all',
  sites: [],
  groups: [],
  instances: [],
  tags: [],
  counters: [],
  conditions: [],
  severities: [],
  hours: ALWAYS,
  steps: [],
}

test('a time of the day is read back as it is told', () => {
  for (const minute of [0, 7 * 60, 22 * 60 + 5, 1439]) {
    expect(fromTime(asTime(minute))).toBe(minute)
  }
  expect(asTime(425)).toBe('07:05')
  expect(fromTime('24:00')).toBeUndefined()
  expect(fromTime('7:61')).toBeUndefined()
  expect(fromTime('soon')).toBeUndefined()
})

test('hours and rules are told in words', () => {
  expect(hoursInWords(ALWAYS)).toBe('at any time')
  expect(hoursInWords({ days: [6, 5], from: 1320, to: 360, holidays: 'left_out' })).toBe(
    'Fri, Sat 22:00–06:00, no holidays',
  )
  expect(fitsInWords(ALL)).toBe('everything')
  expect(
    fitsInWords({
      ...ALL,
      severities: ['critical'],
      conditions: ['outside'],
      sites: ['Northquay'],
    }),
  ).toBe('critical · outside normal · at Northquay')
  expect(stepsInWords(ALL)).toBe('nobody')
  expect(
    stepsInWords({
      ...ALL,
      steps: [
        { to: 'duty:on call', afterMinutes: 0, urgency: 'wake' },
        { to: 'person:ragna', afterMinutes: 15, urgency: 'wake' },
      ],
    }),
  ).toBe('who is on call at once; ragna at once, where nobody knows of it after 15 min')
  expect(toInWords('channel:chat')).toBe('channel chat')
})
