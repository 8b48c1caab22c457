import type { Ref } from 'vue'
import { api } from '@/api/client'
import { useOverWindow } from '@/window/useOverWindow'

const STEPS = 120
const FOLLOWS_MS = 10_000

/** Sessions that run something, over the window, split; live it follows by its steps. */
export const useBusy = (instance: Ref<number | undefined>, by: Ref<string>) =>
  useOverWindow(
    () => (instance.value === undefined ? undefined : { id: instance.value, by: by.value }),
    ({ id, by }, from, to, signal) => api.busy(id, by, from, to, STEPS, signal),
    FOLLOWS_MS,
  )
