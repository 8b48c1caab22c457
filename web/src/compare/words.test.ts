import { describe, expect, it } from 'vitest'
import type { Compared, ComparedRow } from '@/api/types'
import { sentenceOf, verdictOf, wayOf } from './words'

const row = (more: Partial<ComparedRow>): ComparedRow =>
  ({
    series: 1,
    beside: 1,
    counter: 'c',
    title: 'Mean statement time',
    labels: {},
    about: '',
    unit: 's',
    worse: 'up',
    before: 0.18,
    after: 0.004,
    shift: -0.176,
    usual: 0.001,
    verdict: 'far_beyond',
    size: 176,
    perWork: null,
    ...more,
  }) as ComparedRow
const told = (more: Partial<Compared>): Compared =>
  ({
    against: 'the day before “index back”',
    before: { from: 0, to: 1 },
    after: { from: 1, to: 2 },
    rows: [],
    same: 0,
    notComparable: 0,
    settings: [],
    statements: [],
    ...more,
  }) as Compared

describe('a comparison', () => {
  it('says better and worse by the direction of the counter', () => {
    expect(wayOf(row({}))).toBe('better')
    expect(wayOf(row({ worse: 'down' }))).toBe('worse')
    expect(wayOf(row({ worse: 'both' }))).toBe('less')
    expect(verdictOf(row({}))).toBe('better, far beyond its usual change')
    expect(verdictOf(row({ verdict: 'within' }))).toBe('within its usual change')
    expect(verdictOf(row({ verdict: 'beyond', perWork: 0.02, worse: 'both', shift: 3 }))).toBe(
      'more, beyond its usual change; for the work done as before',
    )
    expect(verdictOf(row({ usual: null }))).toBe('better, its usual change is not known yet')
  })

  it('says where nothing can be compared', () => {
    expect(sentenceOf(told({ against: 'freight-1' }), 'freight-db')).toContain(
      "freight-db can't be held against freight-1: no counter has values in both.",
    )
  })

  it('says of another one what is here and what is there', () => {
    const atOnce = { against: 'freight-1', before: { from: 1, to: 2 } }
    expect(sentenceOf(told({ ...atOnce, rows: [row({})], same: 20 }), 'freight-2')).toBe(
      'Mean statement time of freight-2 is 4.00 ms; of freight-1 it is 180 ms. ' +
        'One is better beyond their usual change, 20 are alike, of 21 counters.',
    )
    expect(sentenceOf(told({ ...atOnce, same: 3 }), 'freight-2')).toBe(
      'Nothing of freight-2 differs from freight-1 beyond its usual change. ' +
        'Three of 3 counters are alike.',
    )
  })

  it('is a sentence for a ticket', () => {
    expect(
      sentenceOf(
        told({
          rows: [row({}), row({ series: 2 }), row({ series: 3, verdict: 'within' })],
          same: 214,
          settings: [{ name: 'random_page_cost', before: '4', after: '1.1' }],
        }),
        'freight-db',
      ),
    ).toBe(
      'Against the day before “index back”, Mean statement time of freight-db went from 180 ms to 4.00 ms. ' +
        'Two are better beyond their usual change, 215 are as before, of 217 counters. 1 setting changed.',
    )
    expect(sentenceOf(told({ same: 3 }), 'weather-1')).toBe(
      'Against the day before “index back”, nothing of weather-1 changed beyond its usual change. ' +
        'Three of 3 counters are as before.',
    )
  })
})
