import { describe, expect, it } from 'vitest'
import { momentAt, placeOf, room, WEEKS } from './rail'

const NOW = Date.UTC(2026, 10, 24, 2, 40)
const HOUR = 3_600_000

describe('the rail', () => {
  it('has its stretches side by side', () => {
    expect(placeOf(NOW, NOW)).toBe(1)
    expect(placeOf(NOW - HOUR, NOW)).toBeCloseTo(0.77)
    expect(placeOf(NOW - 24 * HOUR, NOW)).toBeCloseTo(0.46)
    expect(placeOf(NOW - WEEKS, NOW)).toBe(0)
    expect(placeOf(NOW - 2 * WEEKS, NOW)).toBe(0)
  })

  it('finds back the moment of every place', () => {
    for (let place = 0; place <= 1; place += 0.01) {
      expect(placeOf(momentAt(place, NOW), NOW)).toBeCloseTo(place, 9)
    }
  })

  it('gives a name the room up to the next, or to the end', () => {
    const others = [NOW - 24 * HOUR, NOW - HOUR, NOW + HOUR]
    expect(room(NOW - 24 * HOUR, others, NOW)).toBeCloseTo(0.31)
    expect(room(NOW - HOUR, others, NOW)).toBeCloseTo(0.23)
    expect(room(NOW + HOUR, others, NOW)).toBe(0)
    expect(room(NOW - WEEKS, [], NOW)).toBe(1)
  })
})
