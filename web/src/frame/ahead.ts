import type { Router } from 'vue-router'

/** Pages begin to be fetched so long after the first one stands, in ms. */
const AFTER = 1500
/** None is begun so soon after a press: what that asks for goes first. */
const RESTS = 400

const idle = (then: () => void) =>
  'requestIdleCallback' in window ? window.requestIdleCallback(then) : setTimeout(then, 100)

/**
 * Fetches the pages that are not open yet, one after the other, while nothing else is to be done: the first press of a
 * key is as quick as the next. One that can't be fetched is fetched when it is wanted.
 */
export function fetchAhead(router: Router) {
  const pages = router
    .getRoutes()
    .map((route) => route.components?.default as unknown)
    .filter((page): page is () => Promise<unknown> => typeof page === 'function')
  let pressed = -Infinity
  const presses = new AbortController()
  for (const press of ['keydown', 'pointerdown']) {
    window.addEventListener(press, () => (pressed = performance.now()), {
      capture: true,
      signal: presses.signal,
    })
  }
  const next = () => {
    const rests = performance.now() - pressed
    if (rests < RESTS) {
      setTimeout(() => idle(next), RESTS - rests)
      return
    }
    const page = pages.shift()
    if (page)
      void page()
        .catch(() => undefined)
        .then(() => idle(next))
    else presses.abort()
  }
  setTimeout(() => idle(next), AFTER)
}
