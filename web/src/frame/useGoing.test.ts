import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { GOES_AFTER_MS, useGoing } from './useGoing'

describe('what is removed', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('goes after ten seconds', async () => {
    const act = vi.fn().mockResolvedValue(undefined)
    const { later, isGoing, going } = useGoing()
    later('marker 5', 'The marker goes', act)
    expect(isGoing('marker 5')).toBe(true)
    vi.advanceTimersByTime(GOES_AFTER_MS - 1)
    expect(act).not.toHaveBeenCalled()
    vi.advanceTimersByTime(1)
    await flushPromises()
    expect(act).toHaveBeenCalledOnce()
    expect(going.value).toEqual([])
  })

  it('stays when somebody thinks better of it', () => {
    const act = vi.fn()
    const { later, keep, isGoing } = useGoing()
    later('marker 5', 'The marker goes', act)
    keep('marker 5')
    vi.advanceTimersByTime(2 * GOES_AFTER_MS)
    expect([act.mock.calls.length, isGoing('marker 5')]).toEqual([0, false])
  })

  it('goes at once when the page is left, and once', async () => {
    const act = vi.fn().mockResolvedValue(undefined)
    const { later } = useGoing()
    later('recipe x', 'The recipe goes', act)
    window.dispatchEvent(new Event('pagehide'))
    await flushPromises()
    vi.advanceTimersByTime(2 * GOES_AFTER_MS)
    expect(act).toHaveBeenCalledOnce()
  })

  it('goes once, however often it is asked for, and is not kept once it goes', async () => {
    let done = () => {}
    const act = vi.fn(() => new Promise<void>((resolve) => (done = resolve)))
    const { later, go, going } = useGoing()
    later('marker 6', 'The marker goes', act)
    const first = go('marker 6')
    await go('marker 6')
    expect([act.mock.calls.length, going.value[0]?.goes]).toEqual([1, true])
    done()
    await first
    expect(going.value).toEqual([])
  })

  it('is told where it could not be removed, and is there still', async () => {
    const act = vi.fn().mockRejectedValue(new Error('it is in use'))
    const { later, going, isGoing, go, keep } = useGoing()
    later('recipe x', 'The recipe goes', act)
    await go('recipe x')
    expect(going.value[0]?.failure).toBe('it is in use')
    expect(isGoing('recipe x')).toBe(false)
    keep('recipe x')
    expect(going.value).toEqual([])
  })
})
