import { describe, expect, it } from 'vitest'
import {
  calendarSpan,
  merged,
  midnight,
  momentAt,
  placeOf,
  room,
  spaced,
  ticks,
  WEEKS,
  type Span,
} from './rail'

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

  it('goes back to the first that is kept, and names the months then', () => {
    const year = 365 * 24 * HOUR
    expect(placeOf(NOW - year, NOW, year)).toBe(0)
    expect(placeOf(NOW - 24 * HOUR, NOW, year)).toBeCloseTo(0.46)
    expect(placeOf(NOW - WEEKS, NOW, year)).toBeGreaterThan(0.4)
    for (let place = 0; place <= 1; place += 0.01) {
      expect(placeOf(momentAt(place, NOW, year), NOW, year)).toBeCloseTo(place, 9)
    }
    const months = ticks(NOW, year).filter((tick) => tick.kind === 'month')
    expect(months).toHaveLength(12)
    expect(new Set(months.map(({ at }) => new Date(at).getDate()))).toEqual(new Set([1]))
    expect(ticks(NOW, year).some((tick) => tick.kind === 'week')).toBe(false)
  })

  it('labels only what has room on it', () => {
    const all = ticks(NOW)
    expect(spaced(all, NOW, 3000)).toEqual(all)
    const narrow = spaced(all, NOW, 400).map((tick) => placeOf(tick.at, NOW) * 400)
    expect(narrow.length).toBeGreaterThan(3)
    narrow.slice(1).forEach((place, i) => expect(place - narrow[i]!).toBeGreaterThanOrEqual(46))
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

describe('the bars of the rail', () => {
  const alert = (kind: string, hoursAgo: number, minutes: number, of: string) => ({
    kind,
    from: NOW - hoursAgo * HOUR,
    to: NOW - hoursAgo * HOUR + minutes * 60_000,
    of,
  })

  it('become one of their kind where they touch', () => {
    const bars = merged(
      [
        alert('warning', 300, 10, 'a'),
        alert('critical', 299.9, 10, 'b'),
        alert('warning', 299.5, 10, 'c'),
        alert('warning', 100, 10, 'd'),
      ],
      NOW,
      0.005,
    )
    expect(bars.map((bar) => [bar.kind, bar.all.join('')])).toEqual([
      ['warning', 'ac'],
      ['critical', 'b'],
      ['warning', 'd'],
    ])
    expect(bars[0]!.to).toBe(NOW - 299.5 * HOUR + 600_000)
  })

  it('are never more than there is room for, and none is lost', () => {
    const all = Array.from({ length: 5000 }, (_, i) =>
      alert(['critical', 'warning', 'silent'][i % 3]!, (i * 0.2) % 1000, 3, `${i}`),
    )
    const bars = merged(all, NOW, 0.005)
    expect(bars.length).toBeLessThan(3 * 101)
    expect(bars.flatMap((bar) => bar.all)).toHaveLength(5000)
  })
})

describe('a span of the calendar', () => {
  const OSLO = 'Europe/Oslo'
  const iso = (span: Span, now: string, zone = OSLO) => {
    const { from, to } = calendarSpan(span, Date.parse(now), zone)
    return [new Date(from).toISOString(), new Date(to).toISOString()]
  }

  it('begins and ends at midnight there', () => {
    const now = '2026-11-24T02:40:00.000Z'
    expect(iso('today', now)).toEqual(['2026-11-23T23:00:00.000Z', now])
    expect(iso('yesterday', now)).toEqual(['2026-11-22T23:00:00.000Z', '2026-11-23T23:00:00.000Z'])
    expect(iso('this week', now)[0]).toBe('2026-11-22T23:00:00.000Z')
    expect(iso('last week', now)).toEqual(['2026-11-15T23:00:00.000Z', '2026-11-22T23:00:00.000Z'])
    expect(iso('this month', now)[0]).toBe('2026-10-31T23:00:00.000Z')
    expect(iso('last month', now)).toEqual(['2026-09-30T22:00:00.000Z', '2026-10-31T23:00:00.000Z'])
    expect(iso('today', now, 'Pacific/Auckland')[0]).toBe('2026-11-23T11:00:00.000Z')
  })

  it('has a day of 25 hours in autumn and of 23 in spring', () => {
    expect(iso('yesterday', '2026-10-26T09:00:00.000Z')).toEqual([
      '2026-10-24T22:00:00.000Z',
      '2026-10-25T23:00:00.000Z',
    ])
    expect(iso('yesterday', '2026-03-30T09:00:00.000Z')).toEqual([
      '2026-03-28T23:00:00.000Z',
      '2026-03-29T22:00:00.000Z',
    ])
    expect(iso('last week', '2026-11-01T09:00:00.000Z')).toEqual([
      '2026-10-18T22:00:00.000Z',
      '2026-10-25T23:00:00.000Z',
    ])
    expect(midnight(Date.parse('2026-10-25T00:30:00.000Z'), OSLO)).toBe(
      Date.parse('2026-10-24T22:00:00.000Z'),
    )
  })
})
