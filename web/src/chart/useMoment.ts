import { ref } from 'vue'

const moment = ref<number>()

/** The moment under the pointer, one for all charts of the page; epoch ms. */
export const useMoment = () => moment
