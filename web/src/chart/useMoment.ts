import { ref } from 'vue'

/** The moment under the pointer, one for all charts of the page; epoch ms. */
const moment = ref<number>()
/** One that was clicked on: it stays when the pointer goes on to a list. */
const pinned = ref<number>()

export const useMoment = () => moment
export const usePinned = () => pinned
