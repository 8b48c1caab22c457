import { createGlobalState } from '@vueuse/core'
import { ref } from 'vue'

/** The value whose making is being looked at: of a series, at a moment of the past or now. */
export const useWork = createGlobalState(() => ref<{ series: number; at?: number }>())

/** The series of what has the focus, else of what lies under the pointer. */
export function seriesHere(): number | undefined {
  const of = (element: Element | null | undefined) =>
    Number(element?.closest<HTMLElement>('[data-series]')?.dataset.series) || undefined
  const pointed = [...document.querySelectorAll('[data-series]:hover')].at(-1)
  return of(document.activeElement) ?? of(pointed)
}
