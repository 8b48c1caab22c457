import { useDocumentVisibility, useIntersectionObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { init, type EChartsCoreOption, type EChartsType } from './echarts'

/**
 * Draws into a box: made when it is first in view, drawn once a frame however much changed, and not
 * at all while nobody sees it.
 *
 * @param option what is drawn; undefined for nothing
 * @returns whether that is there, or nobody looks
 */
export function useDrawing(
  box: Ref<HTMLElement | undefined>,
  size: Ref<[number, number]>,
  option: () => EChartsCoreOption | undefined,
) {
  const seen = useDocumentVisibility()
  const inView = ref(false)
  /** Whether what is to be seen is there. */
  const drawn = ref(false)
  let chart: EChartsType | undefined
  let drawnSize = ''
  let frame = 0
  let wanted: EChartsCoreOption | undefined

  useIntersectionObserver(box, (entries) => (inView.value = !!entries.at(-1)?.isIntersecting))

  function draw() {
    frame = 0
    if (!wanted || !box.value) return
    chart ??= init(box.value)
    if (drawnSize !== size.value.join()) {
      drawnSize = size.value.join()
      chart.resize()
    }
    // what is there goes on, what is not there any more goes
    chart.setOption(wanted, { replaceMerge: ['series'] })
    drawn.value = true
  }
  const isSeen = () => inView.value && seen.value === 'visible'
  // what nobody sees is not even thought of
  watch(
    () => (isSeen() ? [option(), size.value.join()] : []),
    ([now]) => {
      wanted = now as EChartsCoreOption | undefined
      drawn.value = !wanted
      if (wanted && !frame) frame = requestAnimationFrame(draw)
    },
  )
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
    chart?.dispose()
  })

  return computed(() => drawn.value || !isSeen())
}
