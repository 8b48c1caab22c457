import { computed } from 'vue'
import { useClock } from './useClock'

const QUARTER_MS = 15 * 60_000
/** The server takes up what is normal now when its own clock says so. */
const AFTER_MS = 5000

/** Changes a moment after each quarter-hour: then another normal holds. */
export function useQuarter() {
  const now = useClock()
  return computed(() => Math.floor((now.value - AFTER_MS) / QUARTER_MS))
}
