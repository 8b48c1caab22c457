import { computed, onScopeDispose, ref, type Ref } from 'vue'
import { useMoment, usePinned } from './useMoment'

/** Moved less than this it was a click. */
const DRAG_PX = 4

/** Where the plot lies in its box, px, and the time it shows, epoch ms. */
export type Plot = { left: number; width: number; from: number; to: number }

/** The moment under the pointer, the same in all charts of the page, and a stretch dragged over to zoom in. */
export function usePointer(
  box: Ref<HTMLElement | undefined>,
  plot: Ref<Plot>,
  zoom: (from: number, to: number) => void,
  pin: () => void = () => undefined,
) {
  const moment = useMoment()
  const pinned = usePinned()
  const drag = ref<{ from: number; to: number }>()
  let pressed: number | undefined

  const xOf = (at: number) => {
    const { left, width, from, to } = plot.value
    return left + ((at - from) / (to - from)) * width
  }
  const atOf = (x: number) => {
    const { left, width, from, to } = plot.value
    return from + ((x - left) / width) * (to - from)
  }
  function xIn(event: PointerEvent) {
    const { left, width } = plot.value
    const x = event.clientX - (box.value?.getBoundingClientRect().left ?? 0)
    return Math.min(left + width, Math.max(left, x))
  }

  const cross = computed(() => {
    const at = moment.value
    return at !== undefined && at >= plot.value.from && at <= plot.value.to ? xOf(at) : undefined
  })

  function down(event: PointerEvent) {
    if (event.button !== 0) return
    pressed = xIn(event)
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  }
  function move(event: PointerEvent) {
    const x = xIn(event)
    moment.value = pinned.value ?? atOf(x)
    if (pressed !== undefined && Math.abs(x - pressed) > DRAG_PX) {
      drag.value = { from: Math.min(x, pressed), to: Math.max(x, pressed) }
    }
  }
  function up() {
    const chosen = drag.value
    const clicked = pressed
    pressed = undefined
    drag.value = undefined
    if (chosen) zoom(atOf(chosen.from), atOf(chosen.to))
    else if (clicked !== undefined) {
      pinned.value = pinned.value ? undefined : atOf(clicked)
      pin()
    }
  }
  const leave = () => (moment.value = pinned.value)
  // what is not there any more has no pointer over it
  onScopeDispose(leave)

  return { moment, cross, drag, xOf, down, move, up, leave }
}
