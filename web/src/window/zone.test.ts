import { afterEach, describe, expect, it } from 'vitest'
import { useLikes } from '@/look/useLikes'
import { clock, day, momentInWords, ownZone, windowInWords, zone } from '@/text/format'
import { readZone } from './zone'

afterEach(() => readZone({}))

describe('the zone of a link', () => {
  it('is that of who made it', () => {
    const at = Date.UTC(2026, 10, 24, 1, 10)
    readZone({ zone: 'Europe/Oslo' })
    expect(clock(at)).toBe('02:10')
    readZone({ zone: 'America/New_York' })
    expect([day(at), clock(at)]).toEqual(['Mon 23 Nov', '20:10'])
    readZone({ zone: 'Atlantis/Capital' })
    expect(zone.value).toBe(ownZone)
  })

  it('is that which who looks likes where it names none', () => {
    const { likes } = useLikes()
    likes.value = { ...likes.value, zone: 'Asia/Kathmandu' }
    readZone({})
    expect(clock(Date.UTC(2026, 10, 24, 1, 10))).toBe('06:55')
    readZone({ zone: 'Europe/Oslo' })
    expect(zone.value).toBe('Europe/Oslo')
    likes.value = { ...likes.value, zone: '' }
    readZone({})
    expect(zone.value).toBe(ownZone)
  })

  it('has its hours twice and not at all where its clocks are set', () => {
    readZone({ zone: 'Europe/Oslo' })
    const hour = 3_600_000
    const autumn = Date.UTC(2026, 9, 25, 0, 30)
    expect([0, 1, 2].map((n) => clock(autumn + n * hour))).toEqual(['02:30', '02:30', '03:30'])
    const spring = Date.UTC(2026, 2, 29, 0, 30)
    expect([0, 1].map((n) => clock(spring + n * hour))).toEqual(['01:30', '03:30'])
    expect(windowInWords(spring, spring + hour)).toBe('Sun 29 Mar, 01:30 – 03:30')
  })

  it('tells the day of a moment that is not today', () => {
    readZone({ zone: 'Europe/Oslo' })
    const now = Date.UTC(2026, 10, 24, 9)
    expect(momentInWords(now - 60_000, now)).toBe('09:59:00')
    expect(momentInWords(now - 12 * 3_600_000, now)).toBe('Mon 23 Nov 22:00')
  })
})
