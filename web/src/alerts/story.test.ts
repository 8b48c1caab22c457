import { describe, expect, it } from 'vitest'
import type { Alert, AlertBefore, AlertStory } from '@/api/types'
import { affectedOf, firstMinutes, lastNote, linked, shortOf, until } from './story'

const alert = { subject: 'booking-db-a', ended: null } as Alert
const story = (of: Partial<AlertStory>) =>
  ({ together: [], usedBy: [], uses: [], ...of }) as unknown as AlertStory
const others = (...names: string[]) => names.map((subject) => ({ subject })) as Alert[]

describe('what an alert is read with', () => {
  it('says how many of those that use it alert too', () => {
    const usedBy = ['booking-1', 'booking-2', 'gate-1']
    expect(affectedOf(alert, story({ usedBy, together: others('booking-1', 'booking-2') }))).toBe(
      'Together with 2 of the 3 that use it.',
    )
    expect(affectedOf(alert, story({ usedBy, together: others('gate-1') }))).toBe(
      'Together with gate-1, which uses it.',
    )
    expect(affectedOf(alert, story({ usedBy }))).toBe(
      '3 instances use it, and none of them alerts.',
    )
  })

  it('says that what it uses alerts too, and nothing where nothing is known', () => {
    const uses = ['booking-db-a']
    expect(affectedOf(alert, story({ uses, together: others('booking-db-a') }))).toBe(
      'Together with booking-db-a, which it uses.',
    )
    expect(affectedOf(alert, story({ uses }))).toBe('')
  })

  it('knows whose pools ran short of those that use it', () => {
    const alerts = (...all: [number, string, string][]) =>
      all.map(([instance, instanceName, counter]) => ({
        instance,
        instanceName,
        counter,
      })) as Alert[]
    const usedBy = ['booking-1', 'booking-2', 'gate-1']
    const together = alerts(
      [5, 'booking-1', 'pool.waiting'],
      [5, 'booking-1', 'pool.in_use_share'],
      [6, 'booking-2', 'pool.waiting'],
      [7, 'fares-1', 'pool.waiting'],
      [8, 'gate-1', 'requests.busy_share'],
    )
    expect(shortOf(story({ usedBy, together }), 6)).toEqual([5, 6])
    expect(shortOf(story({ usedBy, together }), 1)).toEqual([5])
    expect(shortOf(story({ usedBy }), 6)).toEqual([])
  })

  it('finds the newest note, and links within words', () => {
    const before = [{ note: '' }, { note: 'let go by itself' }, { note: 'old' }] as AlertBefore[]
    expect(lastNote(before)?.note).toBe('let go by itself')
    expect(linked('ring fares, see http://docs.invalid/reload then end it')).toEqual([
      { text: 'ring fares, see ' },
      { text: 'http://docs.invalid/reload', href: 'http://docs.invalid/reload' },
      { text: ' then end it' },
    ])
    expect(linked('javascript:alert(1)')).toEqual([{ text: 'javascript:alert(1)' }])
  })

  it('has first minutes, however soon it was over', () => {
    expect(firstMinutes({ since: 1_000, ended: null })).toEqual({ from: 1_000, to: 301_000 })
    expect(firstMinutes({ since: 0, ended: 120_000 }).to).toBe(120_000)
    expect(firstMinutes({ since: 0, ended: 5_000 }).to).toBe(60_000)
  })

  it('is asked for anew until its time is over, and once more', () => {
    const asked = [0, 5_000, 10_000, 59_999, 60_000, 70_000, 80_000, 900_000]
    expect(asked.map((now) => until(60_000, now))).toEqual([0, 0, 1, 5, 6, 7, 7, 7])
  })
})
