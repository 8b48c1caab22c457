import { ref } from 'vue'

const table = ref(false)

/** Whether the numbers of a chart on the whole bench are listed below it. */
export const useTable = () => table
