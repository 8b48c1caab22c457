import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Failure, openLive } from '@/api/client'
import { liveStream } from './stream'

vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: { want: vi.fn() },
  openLive: vi.fn(),
}))

/** Streams that tell when a test says so. */
const opened: { tell: (name: string, data: object) => void }[] = []
beforeEach(() => {
  vi.useFakeTimers()
  vi.resetAllMocks()
  opened.length = 0
  vi.mocked(openLive).mockImplementation(() => {
    const heard = new Map<string, (event: object) => void>()
    opened.push({ tell: (name, data) => heard.get(name)?.({ data: JSON.stringify(data) }) })
    return {
      addEventListener: (name: string, f: (event: object) => void) => heard.set(name, f),
      close: () => {},
    } as unknown as EventSource
  })
})
afterEach(() => void vi.useRealTimers())

const told = () => vi.mocked(api.want).mock.calls

describe('the live stream', () => {
  it('is told what is wanted once it is open, and when that changes', async () => {
    vi.mocked(api.want).mockResolvedValue(undefined)
    let wanted = [1]
    const stream = liveStream(
      () => wanted,
      () => {},
    )
    stream.open()
    stream.tell()
    expect(told()).toEqual([])
    opened[0]!.tell('stream', { id: 'a' })
    await flushPromises()
    wanted = [1, 2]
    stream.tell()
    await flushPromises()
    expect(told()).toEqual([
      ['a', [1]],
      ['a', [1, 2]],
    ])
  })

  it('is told again what could not be told', async () => {
    vi.mocked(api.want).mockRejectedValueOnce(new Failure('busy', 503)).mockResolvedValue(undefined)
    const stream = liveStream(
      () => [1],
      () => {},
    )
    stream.open()
    opened[0]!.tell('stream', { id: 'a' })
    await flushPromises()
    expect(told()).toHaveLength(1)
    await vi.advanceTimersByTimeAsync(1000)
    expect(told()).toHaveLength(2)
    await vi.advanceTimersByTimeAsync(5000)
    expect(told()).toHaveLength(2)
  })

  it('is opened anew where the server does not know it any more', async () => {
    vi.mocked(api.want)
      .mockRejectedValueOnce(new Failure('unknown', 404))
      .mockResolvedValue(undefined)
    const stream = liveStream(
      () => [1],
      () => {},
    )
    stream.open()
    opened[0]!.tell('stream', { id: 'a' })
    await flushPromises()
    expect(opened).toHaveLength(2)
    opened[1]!.tell('stream', { id: 'b' })
    await flushPromises()
    expect(told().map(([id]) => id)).toEqual(['a', 'b'])
  })
})
