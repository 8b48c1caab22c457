import { describe, expect, it } from 'vitest'
import type { Instance } from '@/api/types'
import { bySite, type Placed } from './order'

const placed = (
  name: string,
  of: { site?: string; group?: string; kind?: string; state?: object } = {},
) =>
  ({
    instance: {
      name,
      site: of.site ?? 'Northquay',
      group: of.group ?? 'gates',
      kind: 'appserver',
      state: { state: 'reading', restart: '', ...of.state },
    } as unknown as Instance,
    standing: { kind: of.kind ?? 'calm', sign: '', fact: '' },
  }) satisfies Placed
const names = (all: Placed[], byName = false) =>
  bySite(all, () => undefined, byName).map((site) => [
    site.name,
    ...site.groups.map((g) => `${g.name}: ${g.members.map((p) => p.instance.name).join(' ')}`),
  ])

describe('the shelf', () => {
  it('has what departs from calm first, then the names, numbers as numbers', () => {
    const all = [
      placed('gate-10'),
      placed('gate-2'),
      placed('booking-1', { group: 'booking', kind: 'warning' }),
      placed('booking-2', { group: 'booking', kind: 'critical' }),
      placed('fares-1', { group: 'fares', kind: 'silent' }),
    ]
    expect(names(all)).toEqual([
      ['Northquay', 'booking: booking-2 booking-1', 'fares: fares-1', 'gates: gate-2 gate-10'],
    ])
    expect(names(all, true)).toEqual([
      ['Northquay', 'booking: booking-1 booking-2', 'fares: fares-1', 'gates: gate-2 gate-10'],
    ])
  })

  it('has the site of Jam Jar itself last', () => {
    const own = placed('Jam Jar', { site: 'Jam Jar', group: '' })
    own.instance.kind = 'jamjar'
    expect(names([own, placed('z', { site: 'Southmole' })]).map((site) => site[0])).toEqual([
      'Southmole',
      'Jam Jar',
    ])
  })

  it('counts how many are read of how many there should be', () => {
    const all = [
      placed('gate-1'),
      placed('gate-2', { state: { state: 'silent' } }),
      placed('gate-3', { state: { state: 'paused' } }),
    ]
    const [site] = bySite(all, () => undefined, false)
    expect([site!.reading, site!.total, site!.groups[0]!.calm]).toEqual([1, 2, false])
    const [told] = bySite(all, (group) => (group === 'gates' ? 4 : undefined), false)
    expect([told!.reading, told!.total]).toEqual([1, 4])
  })
})
