import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api } from '@/api/client'
import type { LiveReading, Points, Series } from '@/api/types'
import { onLive } from '@/live/useLive'
import { inPage } from '@/testing/inPage'
import { usePoints } from './usePoints'

vi.mock('@/api/client', () => ({ api: { points: vi.fn() }, inWords: String }))
vi.mock('@/live/useLive', () => ({ onLive: vi.fn(), useWanted: vi.fn() }))

const series = { id: 1, interval: 1 } as Series
const now = Date.now()
/** Read each second up to so many seconds from now. */
const upTo = (seconds: number): Points => {
  const at = [-3, -2, -1, 0].map((n) => now + (seconds + n) * 1000)
  const as = (value: number | null) => at.map(() => value)
  return {
    series: 1,
    at,
    mean: as(1),
    min: as(1),
    max: as(1),
    spans: [],
    normalLow: as(null),
    normal: as(null),
    normalHigh: as(null),
    normalSince: null,
  }
}
const told = (seconds: number): LiveReading => ({
  instance: 7,
  at: now + seconds * 1000,
  series: [1],
  values: [5],
  why: [''],
  distance: [null],
})

describe('points that go on live', () => {
  const answers: ((points: Points[]) => void)[] = []
  async function open() {
    const page = await inPage('/now?pick=7', () => usePoints(ref([series]), ref([7])))
    const live = vi.mocked(onLive).mock.lastCall![0]
    const shown = () => page.points.value[1]?.mean
    const answered = async (points: Points) => {
      answers.shift()!([points])
      await flushPromises()
    }
    return { live, shown, answered, close: () => page.page.unmount() }
  }
  beforeEach(() => {
    answers.length = 0
    vi.mocked(api.points).mockReset()
    vi.mocked(api.points).mockImplementation(() => new Promise((done) => answers.push(done)))
  })

  it('keep what was told while an answer was under way that is older', async () => {
    const { live, shown, answered } = await open()
    live.reading!(told(1))
    await answered(upTo(0))
    expect(shown()).toEqual([1, 1, 1, 1, 5])
    live.missed!()
    live.reading!(told(2))
    live.reading!(told(3))
    await answered(upTo(1))
    live.reading!(told(4))
    expect(shown()).toEqual([1, 1, 1, 1, 5, 5, 5])
  })

  it('ask for what lies in a hole that may only have been told to nobody, now and then', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
    const { live, shown, answered, close } = await open()
    await answered(upTo(0))
    live.reading!(told(3))
    expect(shown()).toEqual([1, 1, 1, 1, null, 5])
    expect(api.points).toHaveBeenCalledTimes(2)
    await answered(upTo(3))
    expect(shown()).toEqual([1, 1, 1, 1])
    live.reading!(told(6))
    live.reading!(told(9))
    expect(shown()).toEqual([1, 1, 1, 1, null, 5, null, 5])
    expect(api.points).toHaveBeenCalledTimes(2)
    vi.advanceTimersByTime(30_000)
    expect(api.points).toHaveBeenCalledTimes(3)
    await answered(upTo(9))
    expect(shown()).toEqual([1, 1, 1, 1])
    vi.advanceTimersByTime(30_001)
    live.reading!(told(12))
    await answered(upTo(12))
    live.reading!(told(15))
    expect(api.points).toHaveBeenCalledTimes(4)
    close()
    vi.advanceTimersByTime(60_000)
    expect(api.points).toHaveBeenCalledTimes(4)
    vi.useRealTimers()
  })
})
