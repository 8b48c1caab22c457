import type { Router } from 'vue-router'

/** Pages begin to be fetched so long after the first one stands, in ms. */
const AFTER = 1500

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
  const next = () => {
    const page = pages.shift()
    if (page)
      void page()
        .catch(() => undefined)
        .then(() => idle(next))
  }
  setTimeout(() => idle(next), AFTER)
}
