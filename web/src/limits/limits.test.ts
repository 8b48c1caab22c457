import { describe, expect, it } from 'vitest'
import type { LimitInForce, Series } from '@/api/types'
import { linesOf, limitOf, severityOf } from './limits'

const limit = (condition: string, warning: number | null, critical: number | null) =>
  ({ condition, warning, critical }) as LimitInForce
const series = (...limits: LimitInForce[]) => ({ limits }) as Series

describe('the limits of a series', () => {
  const above = series(limit('outside', 6, null), limit('above', 10, 25))
  const below = series(limit('below', 90, 75))

  it('has lines only for numbers on its own axis', () => {
    expect(linesOf(above)).toEqual([
      { kind: 'warning', value: 10 },
      { kind: 'critical', value: 25 },
    ])
    expect(linesOf(series(limit('outside', 6, 20)))).toEqual([])
    expect(limitOf(below)?.condition).toBe('below')
    expect(linesOf(series(limit('above', null, 25)))).toEqual([{ kind: 'critical', value: 25 }])
  })

  it('draws a value by the worst number that it is at or beyond', () => {
    expect(severityOf(above, 9.9)).toBeUndefined()
    expect(severityOf(above, 10)).toBe('warning')
    expect(severityOf(above, 25)).toBe('critical')
    expect(severityOf(below, 90)).toBe('warning')
    expect(severityOf(below, 70)).toBe('critical')
    expect(severityOf(above, null)).toBeUndefined()
    expect(severityOf(series(), 99)).toBeUndefined()
  })
})
