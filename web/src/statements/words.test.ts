import { describe, expect, it } from 'vitest'
import type { StatementRow } from '@/api/types'
import { formatted } from './formatted'
import { change, changeInWords } from './words'

const row = (change: Partial<StatementRow['change']>) =>
  ({
    change: {
      kind: 'both',
      total: 0,
      moreOften: 0,
      slower: 0,
      callsPerSecondBefore: 1,
      meanBefore: 1,
      ...change,
    },
  }) as StatementRow

describe('what changed of a statement', () => {
  it('is told in ms of statement time a second, with its sign', () => {
    expect(change(0.0123)).toBe('+12.3')
    expect(change(-2.9)).toBe('−2900')
    expect(change(0.000001)).toBe('0')
  })

  it('says first how much comes from more calls, then from slower ones', () => {
    expect(changeInWords(row({ total: 2.912, moreOften: 0.012, slower: 2.9 }))).toBe(
      '+12 and +2900',
    )
    expect(changeInWords(row({ kind: 'new', total: 0.05 }))).toBe('new: +50')
    expect(changeInWords(row({ kind: 'vanished', total: -0.05 }))).toBe('gone: −50')
    expect(changeInWords(row({ kind: 'none' }))).toBe('')
  })
})

describe('the text of a statement', () => {
  it('stands on several lines, what was folded as it was', async () => {
    const text = await formatted('select a, b from t where id in (…) and c = ?')
    expect(text.split('\n').length).toBeGreaterThan(3)
    expect(text.replace(/\s+/g, ' ')).toContain('id in (…)')
    expect(text).not.toContain('folded')
  })

  it('stands as it is where it is cut off', async () => {
    expect(await formatted('select (')).toBe('select (')
    expect(await formatted("select 'a")).toBe("select 'a")
  })
})
