import { createGlobalState } from '@vueuse/core'
import { ref } from 'vue'
import { useShownMoment } from '@/window/useShownMoment'

const useOpened = createGlobalState(() => ref<{ series: number; at?: number }>())

/**
 * The value whose making is being looked at. It is shown as of the moment that is looked at, so that
 * it is the number that stands beside it; without `at`: now.
 */
export function useWork() {
  const work = useOpened()
  const { at } = useShownMoment()
  const show = (series: number) => (work.value = { series, at: at.value && Math.round(at.value) })
  return { work, show }
}

/** The series of what has the focus, else of what lies under the pointer. */
export function seriesHere(): number | undefined {
  const of = (element: Element | null | undefined) =>
    Number(element?.closest<HTMLElement>('[data-series]')?.dataset.series) || undefined
  const pointed = [...document.querySelectorAll('[data-series]:hover')].at(-1)
  return of(document.activeElement) ?? of(pointed)
}
