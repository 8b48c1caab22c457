import { describe, expect, it } from 'vitest'
import type { Limit, LimitRang } from '@/api/types'
import { labelsInWords, noiseInWords, noiseBy, wordsOf } from './noise'

const rang = (rule: number, alerts: number, atNight: number) =>
  ({
    rule,
    instance: 1,
    series: 2,
    condition: 'above',
    alerts,
    atNight,
    inAlert: 60_000,
    acknowledged: 1,
    untilAcknowledged: 30_000,
  }) as LimitRang

describe('the noise of limits', () => {
  it('adds up over series and instances', () => {
    const all = [rang(1, 3, 1), rang(2, 9, 9), rang(1, 2, 0)]
    const of = noiseBy(all, (one) => `${one.rule}`)
    expect(of('1')).toEqual({
      alerts: 5,
      atNight: 1,
      inAlert: 120_000,
      acknowledged: 2,
      untilAcknowledged: 60_000,
      most: all[0],
    })
    expect(of('3').alerts).toBe(0)
  })

  it('tells the nights apart', () => {
    expect(noiseInWords(rang(1, 0, 0))).toBe('–')
    expect(noiseInWords(rang(1, 5, 0))).toBe('5')
    expect(noiseInWords(rang(1, 5, 2))).toBe('5, 2 at night')
  })

  it('says for which labels it is', () => {
    expect(labelsInWords({ pool: '*', node: 'a' })).toEqual(['each pool', 'a'])
  })

  it('is found by any word of its limit', () => {
    const limit = { counter: 'pool.waiting', condition: 'above', labels: { pool: 'farePool' } }
    const words = wordsOf(limit as unknown as Limit, 'Waiting for a connection', 'the group fares')
    for (const word of ['farepool', 'pool.waiting', 'connection', 'fares', 'above'])
      expect(words).toContain(word)
  })
})
