import { computed } from 'vue'
import { useRoute, useRouter, type LocationQuery } from 'vue-router'
import { ownZone, zone } from '@/text/format'
import { useClock } from './useClock'

const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR

/** The widths that widening and narrowing step through, ms. */
export const WIDTHS = [
  2 * MINUTE,
  5 * MINUTE,
  15 * MINUTE,
  30 * MINUTE,
  HOUR,
  3 * HOUR,
  6 * HOUR,
  12 * HOUR,
  DAY,
  2 * DAY,
  7 * DAY,
  14 * DAY,
  42 * DAY,
]

export const DEFAULT_WIDTH = 15 * MINUTE

const NAMES: [number, string][] = [
  [DAY, 'd'],
  [HOUR, 'h'],
  [MINUTE, 'min'],
  [1000, 's'],
]

/** 900000 → 15min */
export function widthInWords(width: number): string {
  const [size, name] = NAMES.find(([unit]) => width % unit === 0) ?? [1000, 's']
  return `${Math.round(width / size)}${name}`
}

export function widthFromWords(words: unknown): number | undefined {
  const match = /^(\d+)(d|h|min|s)$/.exec(String(words))
  const size = NAMES.find(([, name]) => name === match?.[2])?.[0]
  return match && size ? Number(match[1]) * size : undefined
}

/** The next wider (+1) or narrower (−1) of the widths. */
export function stepWidth(width: number, direction: 1 | -1): number {
  const wider = direction === 1
  const found = wider ? WIDTHS.find((w) => w > width) : [...WIDTHS].reverse().find((w) => w < width)
  return found ?? width
}

/** A window that stands still, as it is kept in the address: the same moment wherever it is opened. */
export const standing = (from: number, to: number) => ({
  w: undefined,
  from: new Date(Math.round(from)).toISOString(),
  to: new Date(Math.round(to)).toISOString(),
  zone: zone.value,
})

/**
 * The window in time, kept in the address: "w" when it ends now and moves on, "from" and "to" when it stands still.
 * Every change is a step of the browser's history, so back and forward undo.
 */
export function useWindow() {
  const route = useRoute()
  const router = useRouter()
  const now = useClock()

  const fixed = computed(() => {
    const from = Date.parse(String(route.query.from))
    const to = Date.parse(String(route.query.to))
    return Number.isFinite(from) && Number.isFinite(to) && to > from ? { from, to } : undefined
  })
  const live = computed(() => fixed.value === undefined)
  const width = computed(() =>
    fixed.value
      ? fixed.value.to - fixed.value.from
      : (widthFromWords(route.query.w) ?? DEFAULT_WIDTH),
  )
  const to = computed(() => fixed.value?.to ?? now.value)
  const from = computed(() => to.value - width.value)

  function go(change: LocationQuery | Record<string, string | undefined>) {
    const query = { ...route.query, ...change } as LocationQuery
    for (const key of Object.keys(query)) if (query[key] === undefined) delete query[key]
    void router.push({ path: route.path, query })
  }

  /** Follows the present again, in the given or the same width. */
  function goLive(newWidth = width.value) {
    const step = WIDTHS.find((w) => w >= newWidth * 0.99) ?? newWidth
    go({ from: undefined, to: undefined, zone: undefined, w: widthInWords(step) })
  }

  function show(newFrom: number, newTo: number) {
    go(standing(newFrom, Math.min(newTo, Date.now())))
  }

  /** Moves by a part of the width; past the present it is live again. */
  function move(parts: number) {
    const by = parts * width.value
    if (to.value + by >= now.value - 1000) {
      if (!live.value) goLive()
      return
    }
    show(from.value + by, to.value + by)
  }

  function widen(direction: 1 | -1) {
    const next = stepWidth(width.value, direction)
    if (live.value) return goLive(next)
    const middle = (from.value + to.value) / 2
    const end = Math.min(middle + next / 2, now.value)
    show(end - next, end)
  }

  /** Tells the times of the same window in the viewer's zone. */
  const inOwnZone = () => go({ zone: ownZone })

  return { from, to, width, live, now, show, goLive, move, widen, inOwnZone }
}
