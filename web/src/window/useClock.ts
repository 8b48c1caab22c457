import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'

const now = ref(Date.now())
useIntervalFn(() => (now.value = Date.now()), 1000)

/** The time now, once a second. */
export const useClock = () => now
