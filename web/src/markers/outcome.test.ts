import { describe, expect, it } from 'vitest'
import type { Marker } from '@/api/types'
import { countsInWords, latest, mostInWords, outcomeInWords, type Outcome } from './outcome'

const outcome = (over: Partial<Outcome>): Outcome => ({
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
const marker = (...outcomes: Outcome[]) => ({ outcomes }) as unknown as Marker

describe('what a marker made better or worse', () => {
  it('is told of the longest time after it, of all instances together', () => {
    const one = marker(
      outcome({ span: 'hour', better: 9 }),
      outcome({ better: 2 }),
      outcome({ instance: 2, better: 1, worse: 3 }),
    )
    expect(latest(one)?.span).toBe('day')
    expect(outcomeInWords(one)).toBe('a day after it: 3 better, 3 worse')
  })

  it('says that nothing changed, and nothing while nothing is told', () => {
    expect(outcomeInWords(marker(outcome({ span: 'minutes' })))).toBe(
      'so far, ten minutes after it: nothing changed',
    )
    expect(outcomeInWords(marker())).toBe('')
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
