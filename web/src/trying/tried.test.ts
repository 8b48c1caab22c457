import { describe, expect, it } from 'vitest'
import type { Tried } from '@/api/types'
import { aWeek, catching, curvePath, figuresOf, overWhat, placeOf } from './tried'

const HOUR = 3_600_000
const curve = [
  { number: 2, perWeek: 30, caught: 1 },
  { number: 4, perWeek: 5, caught: 2 },
  { number: 6, perWeek: 1, caught: 2 },
  { number: 12, perWeek: 0, caught: 0 },
]
const incident = (after: number | null) => ({ marker: 1, title: 'reload', from: 0, to: 9, after })
const tried = (more: Partial<Tried>): Tried => ({
  from: 0,
  to: 42 * 24 * HOUR,
  series: 1,
  leftOut: 0,
  perWeek: 0.66,
  criticals: 0,
  atNight: 1,
  inAlert: 72 * 60_000,
  without: 2,
  alerts: new Array(4).fill({}),
  incidents: [],
  ...more,
})

describe('a limit that was tried', () => {
  it('says how loud it would have been and what it would have caught', () => {
    const told = figuresOf(tried({ incidents: [incident(240_000), incident(null), incident(0)] }))
    expect(told.map((figure) => `${figure.value} ${figure.words}`)).toEqual([
      '0.7 alerts a week',
      '2 of 3 incidents caught',
      '0 s after they began',
      '2 without an incident',
      '1 of 4 at night',
      '72 min in alert',
    ])
  })

  it('says that no incident is marked rather than that none was caught', () => {
    expect(figuresOf(tried({}))[1]).toEqual({ value: '–', words: 'no incident is marked' })
  })

  it('says over how much', () => {
    expect(overWhat(tried({}))).toBe('42 d of this series')
    expect(overWhat(tried({ series: 60, leftOut: 4 }))).toContain('60 series; 4 more')
  })

  it('tells few alerts from none', () => {
    expect([0, 0.04, 0.66, 9.96, 34.2].map(aWeek)).toEqual(['0', '< 0.1', '0.7', '10.0', '34'])
  })

  it('draws the noise of other numbers and where all that can be caught is', () => {
    expect(curvePath(curve, 100, 50).path).toBe('M0 0L20 25L40 45L100 50')
    expect(catching(curve)).toEqual({ from: 4, to: 6, caught: 2 })
    expect(catching([{ number: 2, perWeek: 3, caught: 0 }])).toBeUndefined()
    expect(placeOf(curve, 7)).toBe(0.5)
    expect(placeOf(curve, 99)).toBe(1)
  })
})
