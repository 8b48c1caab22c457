import type { Ref } from 'vue'
import { useAnswer } from '@/api/useAnswer'
import { useShownMoment } from '@/window/useShownMoment'
import { useWindow } from '@/window/useWindow'

/** A sample comes every five seconds at least. */
const FOLLOWS_MS = 5_000

/**
 * What was sampled of an instance at the moment that is looked at, with the moment that it was asked
 * for: undefined for now. Live it follows.
 */
export function useSampled<T extends object>(
  instance: Ref<number | undefined>,
  ask: (id: number, at: number | undefined, signal: AbortSignal) => Promise<T>,
) {
  const window = useWindow()
  const { rests } = useShownMoment()
  return useAnswer(
    () => instance.value,
    async (id, signal) => {
      const asked = rests.value
      return { ...(await ask(id, asked, signal)), asked }
    },
    {
      instead: () => rests.value,
      follows: () => rests.value === undefined && Math.floor(window.now.value / FOLLOWS_MS),
    },
  )
}
