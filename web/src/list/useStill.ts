import { useEventListener } from '@vueuse/core'
import { computed, shallowRef, watch, type Ref } from 'vue'

/**
 * A live list that stands still while the pointer or the focus is in it: the rows stay where they
 * are, with what is newest told of each, and it is counted what is new.
 *
 * @param host what the pointer or the focus is in
 * @param rows all rows, in their order
 * @param about what the rows are about: of another thing nothing is kept
 */
export function useStill<T>(
  host: Ref<HTMLElement | undefined>,
  rows: () => T[],
  keyOf: (row: T) => string,
  about: () => unknown,
) {
  /** The rows as they were last seen, in the order they had. */
  const kept = shallowRef<Map<string, T>>()
  let pointer = false
  const now = () => new Map(rows().map((row) => [keyOf(row), row]))
  const hold = () => (kept.value ??= now())
  const release = () => {
    if (!pointer && !host.value?.contains(document.activeElement)) kept.value = undefined
  }
  /** What is new is shown, in its order. */
  const takeAll = () => {
    if (kept.value) kept.value = now()
  }

  useEventListener(host, 'pointerenter', () => {
    pointer = true
    hold()
  })
  useEventListener(host, 'pointerleave', () => {
    pointer = false
    release()
  })
  useEventListener(host, 'focusin', hold)
  useEventListener(host, 'focusout', () => setTimeout(release))
  watch(() => JSON.stringify(about()), takeAll)

  const known = computed(() => (kept.value ? now() : undefined))
  const shown = computed(() => {
    const current = known.value
    if (!kept.value || !current) return rows()
    return [...kept.value].map(([key, row]) => current.get(key) ?? row)
  })
  /** How many are there that are not shown. */
  const newer = computed(() =>
    known.value ? [...known.value.keys()].filter((key) => !kept.value?.has(key)).length : 0,
  )
  /** Whether a row that is shown is not there any more. */
  const isGone = (key: string) => known.value !== undefined && !known.value.has(key)

  return { shown, newer, isGone, takeAll }
}
