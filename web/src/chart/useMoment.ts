import { ref, shallowRef } from 'vue'
import type { Series } from '@/api/types'

/** The moment under the pointer, one for all charts of the page; epoch ms. */
const moment = ref<number>()
/** One that was clicked on: it stays when the pointer goes on to a list. */
const pinned = ref<number>()

/** What was clicked on then: a series of an instance, and what it was. */
const clicked = shallowRef<{ instance: number; series: Series; value: number | null }>()

export const useMoment = () => moment
export const usePinned = () => pinned
export const useClicked = () => clicked
