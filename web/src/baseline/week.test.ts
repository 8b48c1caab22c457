import { describe, expect, it } from 'vitest'
import { basesInWords, driftInWords, slotsInWords, weekPoints } from './week'
import type { BaselineWeek } from '@/api/types'

describe('the week', () => {
  it('names its quarter-hours', () => {
    expect(slotsInWords(96 + 8, 96 + 11)).toBe('Tuesday 02:00 – 03:00')
    expect(slotsInWords(88, 99)).toBe('Monday 22:00 – Tuesday 01:00')
    expect(slotsInWords(668, 671)).toBe('Sunday 23:00 – 24:00')
    expect(slotsInWords(192, 287)).toBe('Wednesday')
    expect(slotsInWords(5, 5)).toBe('Monday 01:15 – 01:30')
  })

  it('has gaps where nothing was read, but none in what is to come', () => {
    const at = [0, 1, 2, 3].map((i) => i * 900_000)
    const week = {
      at,
      mean: [1, null, null, null],
      low: [0, 0, 0, 0],
      middle: [1, 1, 1, 1],
      high: [2, 2, 2, 2],
    } as unknown as BaselineWeek
    expect(weekPoints(week, 2_700_000).spans).toEqual([
      { from: 900_000, to: 2_700_000, why: 'not read' },
    ])
    expect(weekPoints(week, 2_700_000).at[0]).toBe(450_000)
  })

  it('says by what it is served, and how far it has moved', () => {
    expect(
      basesInWords([
        { basis: 'this quarter-hour of the week', slots: 655 },
        { basis: 'all hours together', slots: 17 },
      ]),
    ).toBe(
      '655 of 672 quarter-hours from this quarter-hour of the week, 17 from all hours together',
    )
    expect(basesInWords([{ basis: 'still learning', slots: 672 }])).toBe(
      '672 of 672 quarter-hours still learning',
    )
    expect(driftInWords(0.42)).toBe('+0.4 spreads: no drift that matters')
    expect(driftInWords(-2.3)).toBe('−2.3 spreads')
    expect(driftInWords(null)).toBe('not known of this counter')
  })
})
