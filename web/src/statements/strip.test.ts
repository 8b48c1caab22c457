import { describe, expect, it } from 'vitest'
import { asText, fromText, length, moved, rowOf, rowsShown } from './strip'

const WITHIN = { from: 0, to: 1000, stepMs: 100, rows: [4, 5, 6, 7, 8] }

describe('what is picked of a strip', () => {
  it('stands in the address and comes back', () => {
    const pick = { begin: 100, end: 300, lowest: 5, highest: 7 }
    expect(fromText(asText(pick))).toEqual(pick)
    expect(fromText('')).toBeUndefined()
    expect(fromText('1-2-3')).toBeUndefined()
    expect(fromText('a-b-c-d')).toBeUndefined()
  })

  it('moves within the strip', () => {
    const pick = { begin: 800, end: 1000, lowest: 7, highest: 8 }
    expect(moved(pick, { steps: 1, rows: 0 }, false, WITHIN)).toEqual(pick)
    expect(moved(pick, { steps: -1, rows: 0 }, false, WITHIN)).toEqual({
      ...pick,
      begin: 700,
      end: 900,
    })
    expect(moved(pick, { steps: 0, rows: 1 }, false, WITHIN)).toEqual(pick)
    expect(moved(pick, { steps: 0, rows: -5 }, false, WITHIN).lowest).toBe(4)
  })

  it('is stretched, and never to nothing', () => {
    const pick = { begin: 100, end: 200, lowest: 5, highest: 5 }
    expect(moved(pick, { steps: 2, rows: 0 }, true, WITHIN).end).toBe(400)
    expect(moved(pick, { steps: -3, rows: 0 }, true, WITHIN)).toEqual(pick)
    expect(moved(pick, { steps: 0, rows: 2 }, true, WITHIN).highest).toBe(7)
    expect(moved(pick, { steps: 0, rows: -2 }, true, WITHIN)).toEqual(pick)
  })
})

describe('lengths', () => {
  it('lie in half decades, those that are not looked for just below', () => {
    expect(rowOf(1000)).toBe(6)
    expect(rowOf(999)).toBe(5)
    expect(rowOf(0.2)).toBe(0)
    expect(rowsShown(1000, [])).toEqual([4, 5, 6, 7, 8])
    expect(rowsShown(100, [{ row: 11 }]).at(-1)).toBe(12)
  })

  it('are exact where they were logged, else between two samples', () => {
    expect(length({ leastMs: 2900, mostMs: 2900, ending: 'finished' })).toBe('2.90 s')
    expect(length({ leastMs: 2000, mostMs: 7000, ending: 'seen running' })).toBe('2.00 s – 7.00 s')
    expect(length({ leastMs: 60000, mostMs: null, ending: 'still running' })).toContain('so far')
    expect(length({ leastMs: 0, mostMs: 0, ending: 'cancelled' })).toBe('not told')
  })
})
