/** So often in a page that nobody sees: no frame is painted there. */
const UNSEEN_MS = 1000

/** Hands on together what came since the last frame: a hundred changes are one picture. */
export function perFrame<T>(take: (all: T[]) => void) {
  let waiting: T[] = []
  let frame: number | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  function flush() {
    if (frame !== undefined) cancelAnimationFrame(frame)
    clearTimeout(timer)
    frame = timer = undefined
    const all = waiting
    waiting = []
    take(all)
  }
  return (one: T) => {
    waiting.push(one)
    if (timer !== undefined) return
    frame = requestAnimationFrame(flush)
    timer = setTimeout(flush, UNSEEN_MS)
  }
}
