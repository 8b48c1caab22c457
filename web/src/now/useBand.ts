import { ref } from 'vue'

const band = ref(true)

/** Whether the normal band is drawn, for all charts. */
export const useBand = () => band
