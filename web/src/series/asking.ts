const AGAIN_MS = 2_000
const SELDOM_MS = 15 * 60_000

/**
 * Whether to ask for a list that does not tell of what a reading told. What was read may not be stored
 * yet: it is asked for again, ever more seldom.
 */
export function askingForUnknown(now: () => number = Date.now) {
  let before = ''
  let next = 0
  let pause = AGAIN_MS
  return (unknown: string): boolean => {
    if (!unknown || (unknown === before && now() < next)) return false
    pause = unknown === before ? Math.min(2 * pause, SELDOM_MS) : AGAIN_MS
    next = now() + pause
    before = unknown
    return true
  }
}
