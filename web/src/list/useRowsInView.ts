import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, onMounted, onUpdated, shallowRef, type Ref } from 'vue'

/** So many stand in the page at once without more ado. */
const FEW = 150

/**
 * Of a long list only what is in view, and a little around it, stands in the page.
 *
 * @param host the list
 * @param keys of its rows, in order
 * @param height of a row as it is at first thought, px; each is measured once it stands there
 */
export function useRowsInView(
  host: Ref<HTMLElement | undefined>,
  keys: () => string[],
  height: number,
) {
  /** Gathered once: it is asked for each of them. */
  const all = computed(keys)
  const long = computed(() => all.value.length > FEW)
  const scrolled = shallowRef<HTMLElement | null>(null)
  /** How far below the top of what scrolls the list begins. */
  const begin = shallowRef(0)
  function look() {
    scrolled.value = host.value?.closest<HTMLElement>('.bench, .scrolls') ?? null
    if (!host.value || !scrolled.value) return
    const top = host.value.getBoundingClientRect().top - scrolled.value.getBoundingClientRect().top
    const now = Math.round(top + scrolled.value.scrollTop)
    if (Math.abs(now - begin.value) > 1) begin.value = now
  }
  onMounted(look)
  onUpdated(look)

  const virtualizer = useVirtualizer(
    computed(() => ({
      count: long.value ? all.value.length : 0,
      getScrollElement: () => scrolled.value,
      estimateSize: () => height,
      getItemKey: (i: number) => all.value[i] ?? i,
      scrollMargin: begin.value,
      overscan: 10,
    })),
  )
  // to put right what stands above, while it is being scrolled, would end that half-way
  virtualizer.value.shouldAdjustScrollPositionOnItemSizeChange = (_item, _delta, list) =>
    !list.isScrolling
  const inView = computed(() =>
    long.value ? virtualizer.value.getVirtualItems().map((item) => item.index) : all.value.keys(),
  )
  /** What is left out above and below, px. */
  const above = computed(() => {
    const first = virtualizer.value.getVirtualItems()[0]
    return long.value && first ? first.start - begin.value : 0
  })
  const below = computed(() => {
    const last = virtualizer.value.getVirtualItems().at(-1)
    return long.value && last ? virtualizer.value.getTotalSize() - (last.end - begin.value) : 0
  })
  const measure = (element: unknown) => {
    if (long.value && element instanceof Element) virtualizer.value.measureElement(element)
  }
  const show = (index: number) => {
    if (long.value && index >= 0) virtualizer.value.scrollToIndex(index, { align: 'auto' })
  }
  return { long, inView, above, below, measure, show }
}
