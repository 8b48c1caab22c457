import { describe, expect, it } from 'vitest'
import { askingForUnknown } from './asking'

describe('what the list does not tell of', () => {
  it('is asked for at once, and again ever more seldom while it is not there', () => {
    let at = 0
    const asks = askingForUnknown(() => at)
    const asked: number[] = []
    for (at = 0; at <= 20_000; at += 1_000) if (asks('7,8')) asked.push(at)
    expect(asked).toEqual([0, 2_000, 6_000, 14_000])
    expect(asks('7,8,9')).toBe(true)
  })

  it('is nothing where all is known', () => {
    expect(askingForUnknown(() => 5)('')).toBe(false)
  })
})
