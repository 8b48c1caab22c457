import { describe, expect, it } from 'vitest'
import type { BaselineWeek, Work, WorkPart } from '@/api/types'
import { formula, madeOf, slotOf } from './work'

const part = (over: Partial<WorkPart>): WorkPart => ({
  name: 'Commits',
  raw: null,
  rawBefore: null,
  byEntries: false,
  resolution: 0,
  kept: null,
  why: '',
  how: '',
  byHand: '',
  sumOf: [],
  ...over,
})
const work = (over: Partial<Work>) =>
  ({ shape: 'level', factor: 1, value: 5, elapsed: 10_001, parts: [], ...over }) as Work

describe('how a value came about', () => {
  it('is a difference over the seconds where both raw values are known', () => {
    const parts = [part({ raw: 1234, rawBefore: 1200, kept: 34 })]
    expect(formula(work({ shape: 'total', value: 34 / 10.001, parts }), '/s')).toMatch(
      /^\(1,234 − 1,200\) ÷ 10\.001 s = 3\.399\d* \/s$/,
    )
  })

  it('is what was kept where entries were added up, or nothing raw is left', () => {
    const byEntries = [part({ raw: 10, rawBefore: 50, kept: 7, byEntries: true })]
    expect(formula(work({ shape: 'total', value: 0.7, parts: byEntries }), '/s')).toMatch(/^7 ÷/)
    const old = [part({ kept: 7 })]
    expect(formula(work({ shape: 'total', value: 0.7, parts: old }), '/s')).toMatch(/^7 ÷/)
  })

  it('of a quotient has the sum below the line, and its factor', () => {
    const parts = [
      part({ name: 'Hits', kept: 90 }),
      part({ name: 'Hits', kept: 90 }),
      part({ name: 'Reads', kept: 10 }),
    ]
    const ratio = work({ shape: 'quotient', factor: 100, value: 90, parts })
    expect(formula(ratio, '%')).toBe('90 ÷ (90 + 10) × 100 = 90 %')
    expect(madeOf(ratio)).toBe('Hits ÷ (Hits + Reads)')
  })

  it('has no formula without a value', () => {
    expect(formula(work({ value: null, parts: [part({})] }), '')).toBe('')
  })

  it('names the quarter-hour and what was left out of it', () => {
    const monday = Date.parse('2026-11-23T00:00:00Z')
    const week = {
      at: Array.from({ length: 672 }, (_, i) => monday + i * 900_000),
      weeks: [
        { monday: 1, minutes: 1, counted: 1, leftOut: [] },
        {
          monday: 2,
          minutes: 1,
          counted: 0,
          leftOut: [{ why: 'incident', first: 100, last: 110, minutes: 15 }],
        },
      ],
    } as unknown as BaselineWeek
    expect(slotOf(week, monday + 104 * 900_000 + 5)).toEqual({
      words: 'Tuesday 02:00 – 02:15',
      since: 1,
      out: [{ monday: 2, why: 'incident' }],
    })
    expect(slotOf(week, monday).out).toEqual([])
  })
})
