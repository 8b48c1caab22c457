import type { Ref } from 'vue'
import { useAnswer } from '@/api/useAnswer'
import { useShownMoment } from '@/window/useShownMoment'
import { useWindow } from '@/window/useWindow'

/** A sample comes every five seconds at least. */
const FOLLOWS_MS = 5_000

/** What was sampled of an instance at the moment that is looked at; live it follows. */
export function useSampled<T>(
  instance: Ref<number | undefined>,
  ask: (id: number, at: number | undefined, signal: AbortSignal) => Promise<T>,
) {
  const window = useWindow()
  const { rests } = useShownMoment()
  return useAnswer(
    () => instance.value,
    (id, signal) => ask(id, rests.value, signal),
    {
      instead: () => rests.value,
      follows: () => rests.value === undefined && Math.floor(window.now.value / FOLLOWS_MS),
    },
  )
}
