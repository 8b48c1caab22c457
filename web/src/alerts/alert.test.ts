import { describe, expect, it } from 'vitest'
import type { Alert } from '@/api/types'
import { grouped } from '@/text/grouped'
import {
  kindOf,
  limitOf,
  sentenceOf,
  titleOf,
  usedFirst,
  valueOf,
  whenOf,
  worstFirst,
} from './alert'

const alert = (of: Partial<Alert>) =>
  ({
    instanceName: 'one',
    subject: 'one',
    title: 'Vacuum age',
    labels: {},
    unit: '',
    condition: 'above',
    severity: 'warning',
    value: 9,
    ...of,
  }) as Alert

it('names what others use before them where it is as bad', () => {
  const all = ['booking-1', 'booking-db-a', 'booking-2'].map((subject, since) =>
    alert({ subject, since }),
  )
  const usesOf = (name: string) => (name === 'booking-db-a' ? [] : ['booking-db-a'])
  const order = (some: Alert[]) => usedFirst(some, usesOf).map((a) => a.subject)
  expect(order(all)).toEqual(['booking-db-a', 'booking-1', 'booking-2'])
  const worse = alert({ subject: 'booking-3', severity: 'critical', since: 9 })
  expect(order([...all, worse])[0]).toBe('booking-3')
})

describe('an alert in words', () => {
  it('is drawn by its severity, silence apart', () => {
    expect(kindOf(alert({}))).toBe('warning')
    expect(kindOf(alert({ severity: 'critical' }))).toBe('critical')
    expect(kindOf(alert({ condition: 'silent', severity: 'warning' }))).toBe('silent')
    expect(kindOf(alert({ condition: 'unreachable', severity: 'critical' }))).toBe('critical')
  })

  it('is named by its counter, its labels and what it watches for', () => {
    expect(titleOf(alert({ labels: { database: 'bookings' } }))).toBe('Vacuum age · bookings')
    expect(titleOf(alert({ condition: 'outside' }))).toBe('Vacuum age, outside normal')
    expect(titleOf(alert({ condition: 'silent' }))).toBe('silent')
    expect(titleOf(alert({ condition: 'unreachable' }))).toBe('unreachable')
    expect(titleOf(alert({ condition: 'overdue' }))).toBe('Vacuum age, did not happen')
    const gates = alert({ subject: 'gates', standing: '3 of 4 answer, missing gate-4', value: 1 })
    expect(titleOf(gates)).toBe('3 of 4 answer, missing gate-4')
    expect([valueOf(gates), limitOf(gates)]).toEqual(['', ''])
  })

  it('has a value with its unit, or none', () => {
    expect(valueOf(alert({ value: 77.9, unit: 's' }))).toBe('77.9 s')
    expect(valueOf(alert({ value: null }))).toBe('')
    expect(valueOf(alert({ condition: 'overdue', value: 34 }))).toBe('34 min late')
    expect(valueOf(alert({ condition: 'reaches', value: 28.7 }))).toBe('in 29 days')
    expect(valueOf(alert({ condition: 'silent', value: 2 }))).toBe('')
    expect(valueOf(alert({ condition: 'unreachable', value: 2 }))).toBe('')
  })
})

describe('a list of alerts', () => {
  const NOW = Date.UTC(2026, 10, 24, 12)
  const since = (hours: number) => NOW - hours * 3_600_000
  const at = (instanceName: string, hours: number, of: Partial<Alert> = {}) =>
    alert({
      instanceName,
      subject: instanceName,
      since: since(hours),
      ended: null,
      state: of.severity ?? 'warning',
      ...of,
    })

  it('has the worst first, of these what is open for longest, and what settles last', () => {
    const all = [
      at('settling', 9, { severity: 'critical', state: 'settling' }),
      at('silent', 9, { condition: 'silent' }),
      at('young', 1, { severity: 'critical' }),
      at('warning', 8),
      at('old', 2, { severity: 'critical' }),
    ]
    expect(all.sort(worstFirst).map((a) => a.instanceName)).toEqual([
      'old',
      'young',
      'warning',
      'silent',
      'settling',
    ])
  })

  it('has those of one instance under one head, where its worst is', () => {
    const all = [at('a', 3), at('b', 2), at('a', 1)]
    const groups = grouped(all, (a) => a.instanceName)
    expect(groups.map(([name, list]) => [name, list.length])).toEqual([
      ['a', 2],
      ['b', 1],
    ])
  })

  it('tells the day where it is not today', () => {
    expect(whenOf(at('a', 1), NOW)).toMatch(/^since \d\d:\d\d \(60 min\)$/)
    expect(whenOf(at('a', 30), NOW)).toMatch(/^since Mon 23 Nov \d\d:\d\d \(30 h\)$/)
    expect(whenOf(at('a', 30, { ended: since(1) }), NOW)).toMatch(
      /^Mon 23 Nov .* – Tue 24 Nov .*\(29 h\)$/,
    )
  })

  it('tells the number at which it is calm while it settles', () => {
    const one = { number: 2, condition: 'above', unit: '' }
    expect(limitOf(at('a', 1, { ...one, state: 'critical' }))).toBe('limit 2')
    expect(limitOf(at('a', 1, { ...one, state: 'settling' }))).toBe('clear 2')
    expect(limitOf(at('a', 1, { ...one, number: 1, condition: 'silent' }))).toBe('limit 1 interval')
  })

  it('is read out in one sentence', () => {
    const one = at('booking-3', 1, {
      title: 'Heap floor',
      unit: '%',
      value: 91,
      normalLow: 48,
      normalHigh: 52,
      number: 85,
      condition: 'above',
    })
    expect(sentenceOf(one, NOW)).toMatch(
      /^Heap floor of booking-3 is 91.0 % \(normal 48.0 – 52.0 %, limit 85 %\), since .*\.$/,
    )
    expect(sentenceOf(at('gate-4', 1, { condition: 'silent', number: 2 }), NOW)).toMatch(
      /^gate-4 is silent \(limit 2 intervals\), since /,
    )
  })
})
