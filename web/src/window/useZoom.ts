import { useWindow } from './useWindow'

/** Zooms in, and back out of what was zoomed in here. */
export function useZoom() {
  const window = useWindow()
  const before: (() => void)[] = []

  function zoom(from: number, to: number) {
    const [live, width, oldFrom, oldTo] = [
      window.live.value,
      window.width.value,
      window.from.value,
      window.to.value,
    ]
    before.push(() => (live ? window.goLive(width) : window.show(oldFrom, oldTo)))
    window.show(from, to)
  }
  /** Nothing where nothing was zoomed. */
  const undo = () => before.pop()?.()

  return { zoom, undo }
}
