import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { inPage } from '@/testing/inPage'
import { useClock } from './useClock'
import { stepWidth, useWindow, widthFromWords, widthInWords, WIDTHS } from './useWindow'
import { useZoom } from './useZoom'

const NOW = Date.UTC(2026, 10, 24, 2, 40)
const MINUTE = 60_000

beforeEach(() => {
  vi.useFakeTimers({ now: NOW, toFake: ['Date'] })
  useClock().value = NOW
})
afterEach(() => void vi.useRealTimers())

describe('the width of a window', () => {
  it('is the same in words and back', () => {
    for (const width of WIDTHS) expect(widthFromWords(widthInWords(width))).toBe(width)
    expect(widthFromWords('a while')).toBeUndefined()
  })

  it('has a next wider and a next narrower one, and stays at the ends', () => {
    expect(stepWidth(15 * MINUTE, 1)).toBeGreaterThan(15 * MINUTE)
    expect(stepWidth(stepWidth(15 * MINUTE, 1), -1)).toBe(15 * MINUTE)
    expect(stepWidth(WIDTHS[0]!, -1)).toBe(WIDTHS[0])
    expect(stepWidth(WIDTHS.at(-1)!, 1)).toBe(WIDTHS.at(-1))
  })
})

describe('the window', () => {
  it('ends now until it is moved, and then stands still in the address', async () => {
    const { live, to, width, move, arrived } = await inPage('/now?pick=3&w=15min', useWindow)
    expect([live.value, to.value, width.value]).toEqual([true, NOW, 15 * MINUTE])
    move(-0.5)
    const address = await arrived()
    expect(address).toContain('pick=3')
    expect(address).toContain('to=2026-11-24T02:32:30.000Z')
    expect(address).not.toContain('w=')
    expect([live.value, to.value, width.value]).toEqual([false, NOW - 7.5 * MINUTE, 15 * MINUTE])
  })

  it('follows the present again when it is moved past it', async () => {
    const { live, move, arrived } = await inPage(
      '/now?from=2026-11-24T02:20:00Z&to=2026-11-24T02:35:00Z&zone=Europe/Oslo',
      useWindow,
    )
    move(0.5)
    expect(await arrived()).toBe('/now?w=15min')
    expect(live.value).toBe(true)
  })

  it('is live where the address makes no sense', async () => {
    const { live, width } = await inPage('/now?from=then&to=now&w=long', useWindow)
    expect([live.value, width.value]).toEqual([true, 15 * MINUTE])
  })

  it('goes back to where it was before a zoom, and nowhere without one', async () => {
    const { has, router, arrived } = await inPage('/now?w=3h', () => ({
      window: useWindow(),
      ...useZoom(),
    }))
    has.undo()
    expect(router.currentRoute.value.fullPath).toBe('/now?w=3h')
    has.zoom(NOW - 100 * MINUTE, NOW - 90 * MINUTE)
    await arrived()
    has.window.move(-1)
    await arrived()
    has.undo()
    expect(await arrived()).toBe('/now?w=3h')
  })
})
