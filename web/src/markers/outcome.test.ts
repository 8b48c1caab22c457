import { describe, expect, it } from 'vitest'
import type { Marker, OutcomeOf } from '@/api/types'
import { countsInWords, latest, mostInWords, outcomeInWords } from './outcome'

const outcome = (over: Partial<OutcomeOf>): OutcomeOf => ({
  span: 'day',
  instance: 1,
  instanceName: 'freight-2',
  better: 0,
  worse: 0,
  other: 0,
  same: 100,
  most: [],
  ...over,
})
const marker = (of: Marker['outcome']) => ({ outcome: of }) as Marker

describe('what a marker made better or worse', () => {
  it('is told of the longest time after it, instance by instance', () => {
    const told = latest([
      outcome({ span: 'hour', better: 9 }),
      outcome({ better: 2 }),
      outcome({ instance: 2, better: 1, worse: 3 }),
    ])
    expect(told?.span).toBe('day')
    expect(told?.all.map((one) => one.instance)).toEqual([1, 2])
    expect(told?.earlier).toEqual([['hour', 'an hour after it']])
    expect(latest([])).toBeUndefined()
  })

  it('is told in a line of all of them', () => {
    const all = { span: 'day', better: 3, worse: 3, other: 0 }
    expect(outcomeInWords(marker(all))).toBe('a day after it: 3 better, 3 worse')
    expect(outcomeInWords(marker({ span: 'minutes', better: 0, worse: 0, other: 0 }))).toBe(
      'so far, ten minutes after it: nothing changed',
    )
    expect(outcomeInWords(marker(null))).toBe('')
  })

  it('counts of how many, and names what changed most', () => {
    expect(countsInWords(outcome({ worse: 1, other: 2 }))).toBe(
      '1 worse, 2 higher or lower of 103 counters',
    )
    const most = {
      series: 1,
      title: 'Heap floor',
      labels: {},
      about: '',
      unit: '%',
      before: 61,
      after: 48,
      way: 'better',
    }
    expect(mostInWords(most)).toBe('Heap floor 61.0 % → 48.0 %')
  })
})
