import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { perFrame } from './perFrame'
import { wants } from './wants'

describe('what is wanted', () => {
  it('is what at least one wants, until that one is gone', () => {
    const all = wants<string>()
    all.set('charts', [7, 3])
    all.set('table', [3, 9])
    expect(all.all()).toEqual([3, 7, 9])
    all.set('charts', [1])
    expect(all.all()).toEqual([1, 3, 9])
    all.drop('table')
    expect(all.all()).toEqual([1])
    expect([all.has('charts'), all.has('table')]).toEqual([true, false])
  })
})

describe('what comes between two frames', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('is taken together, in its order', () => {
    const taken: number[][] = []
    const hand = perFrame<number>((all) => taken.push(all))
    hand(1)
    hand(2)
    expect(taken).toEqual([])
    vi.advanceTimersToNextFrame()
    expect(taken).toEqual([[1, 2]])
    hand(3)
    vi.advanceTimersToNextFrame()
    expect(taken).toEqual([[1, 2], [3]])
  })

  it('is taken all the same where no frame is painted', () => {
    vi.stubGlobal('requestAnimationFrame', () => 1)
    vi.stubGlobal('cancelAnimationFrame', () => {})
    const taken: number[][] = []
    const hand = perFrame<number>((all) => taken.push(all))
    hand(1)
    hand(2)
    vi.advanceTimersByTime(1000)
    expect(taken).toEqual([[1, 2]])
    vi.unstubAllGlobals()
  })
})
