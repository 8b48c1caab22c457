import { describe, expect, it } from 'vitest'
import type { Alert } from '@/api/types'
import { kindOf, titleOf, valueOf } from './useAlerts'

const alert = (of: Partial<Alert>) =>
  ({
    title: 'Vacuum age',
    labels: {},
    unit: '',
    condition: 'above',
    severity: 'warning',
    value: 9,
    ...of,
  }) as Alert

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
  })

  it('has a value with its unit, or none', () => {
    expect(valueOf(alert({ value: 77.9, unit: 's' }))).toBe('77.9 s')
    expect(valueOf(alert({ value: null }))).toBe('')
    expect(valueOf(alert({ condition: 'silent', value: 2 }))).toBe('')
    expect(valueOf(alert({ condition: 'unreachable', value: 2 }))).toBe('')
  })
})
