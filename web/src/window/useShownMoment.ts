import { refDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { useMoment } from '@/chart/useMoment'
import { useWindow } from './useWindow'

/** A pointer that moves on asks for nothing. */
const RESTS_MS = 150

/**
 * The moment that is looked at, epoch ms: under the pointer or pinned, else the end of a window that
 * stands still; undefined for now. `rests` is the same once the pointer rests.
 */
export function useShownMoment() {
  const window = useWindow()
  const moment = useMoment()
  const end = () => (window.live.value ? undefined : Math.round(window.to.value))
  const pointed = refDebounced(moment, RESTS_MS)
  return {
    at: computed(() => moment.value ?? end()),
    rests: computed(() => pointed.value ?? end()),
  }
}
