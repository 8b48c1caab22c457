import { computed, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useWindow } from '@/window/useWindow'

const STEPS = 120
const FOLLOWS_MS = 10_000

/** Sessions that run something, over the window, split; live it follows by its steps. */
export function useBusy(instance: Ref<number | undefined>, by: Ref<string>) {
  const window = useWindow()
  const { answer, failure, asking } = useAnswer(
    () => (instance.value === undefined ? undefined : { id: instance.value, by: by.value }),
    async ({ id, by }, signal) => {
      const [from, to] = [Math.round(window.from.value), Math.round(window.to.value)]
      return { busy: await api.busy(id, by, from, to, STEPS, signal), from, to }
    },
    {
      instead: () =>
        window.live.value ? window.width.value : `${window.from.value} ${window.to.value}`,
      follows: () =>
        window.live.value &&
        Math.floor(window.to.value / Math.max(FOLLOWS_MS, window.width.value / STEPS)),
    },
  )
  return { answer, failure, asking: computed(() => asking.value && !answer.value) }
}
