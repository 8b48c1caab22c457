import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api } from '@/api/client'
import { useReach } from './useReach'

const heard = vi.hoisted(() => ({ state: undefined as ((told: object) => void) | undefined }))
vi.mock('@/live/useLive', () => ({
  onLive: (listener: typeof heard) => void (heard.state = listener.state),
}))
vi.mock('@/window/usePicked', () => ({ usePicked: () => ({ picked: ref([5]) }) }))
vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: { gaps: vi.fn(async () => ({ first: 1, without: [] })) },
}))

it('asks for gaps again where one begins or ends, not with every reading', async () => {
  useReach()
  await flushPromises()
  expect(api.gaps).toHaveBeenCalledTimes(1)
  for (let reading = 0; reading < 5; reading++) heard.state?.({ instance: 5, state: 'reading' })
  await flushPromises()
  expect(api.gaps).toHaveBeenCalledTimes(1)
  heard.state?.({ instance: 5, state: 'silent' })
  await flushPromises()
  expect(api.gaps).toHaveBeenCalledTimes(2)
  // of one that is not picked no gaps are shown
  heard.state?.({ instance: 6, state: 'reading' })
  heard.state?.({ instance: 6, state: 'silent' })
  await flushPromises()
  expect(api.gaps).toHaveBeenCalledTimes(2)
})
