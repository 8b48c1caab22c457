import { useThrottleFn } from '@vueuse/core'
import { computed, shallowRef, watch, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { LiveReading, Points, Series } from '@/api/types'
import { endsHole, extended } from '@/chart/points'
import { onLive, useWanted } from '@/live/useLive'
import { useQuarter } from '@/window/useQuarter'
import { useWindow } from '@/window/useWindow'

const MOST_POINTS = 360
/** No answer is waited for so long as to be without what was told before. */
const LATELY_MS = 60_000
/** What was told is in the store after so long, as a rule. */
const STORED_MS = 5000
/** Holes are asked for no more often: a target that answers late has one after the other. */
const HOLES_MS = 30_000

/**
 * The points of the charted series in the window, going on live.
 *
 * @param instances whose series they are
 */
export function usePoints(charted: Ref<Series[]>, instances: Ref<number[]>) {
  const window = useWindow()
  const quarter = useQuarter()
  const points = shallowRef<Record<number, Points>>({})
  const states = new Map<number, string>()

  const ids = computed(() => charted.value.map((s) => s.id).join())
  const {
    answer,
    failure,
    asking,
    again: load,
  } = useAnswer(
    () => 'points',
    async (_, signal) => {
      const [from, to] = [Math.round(window.from.value), Math.round(window.to.value)]
      const [live, width] = [window.live.value, window.width.value]
      const ids = charted.value.map((s) => s.id)
      const asked = performance.now()
      const found = ids.length ? await api.points(ids, from, to, MOST_POINTS, signal) : []
      return { found, asked, from, to, live, width }
    },
    {
      instead: () =>
        [
          ids.value,
          window.width.value,
          window.live.value ? 'live' : Math.round(window.to.value),
        ].join(' '),
      follows: () => quarter.value,
    },
  )
  /** The window that the points are of: the charts go on to another when its points are there. */
  const shown = computed(() => {
    const { live, width, to, from } = answer.value ?? {
      live: window.live.value,
      width: window.width.value,
      from: window.from.value,
      to: window.to.value,
    }
    return live
      ? { live, from: window.now.value - width, to: window.now.value }
      : { live, from, to }
  })

  /** What was told of late: an answer may be without it, as it was under way, or not in the store yet. */
  let lately: { heard: number; reading: LiveReading }[] = []
  // what lies between may have been told to nobody: the stream was not open yet, or just cut
  const askForHole = useThrottleFn(() => void load(), HOLES_MS, true)

  /** @returns the same where it tells nothing of them */
  function withReading(before: Record<number, Points>, reading: LiveReading) {
    let next: Record<number, Points> | undefined
    for (const series of charted.value) {
      const i = reading.series.indexOf(series.id)
      const old = before[series.id]
      if (i < 0 || !old) continue
      next ??= { ...before }
      const [at, value, interval] = [reading.at, reading.values[i] ?? null, series.interval * 1000]
      if (endsHole(old, at, interval)) void askForHole()
      next[series.id] = extended(old, at, value, shown.value.from, interval)
    }
    return next ?? before
  }

  watch(answer, (now) => {
    points.value = Object.fromEntries((now?.found ?? []).map((p) => [p.series, p]))
    if (!now?.live) return
    for (const { heard, reading } of lately) {
      if (heard > now.asked - STORED_MS) points.value = withReading(points.value, reading)
    }
  })

  function take(reading: LiveReading) {
    const heard = performance.now()
    lately = lately.filter((one) => one.heard > heard - LATELY_MS)
    lately.push({ heard, reading })
    if (shown.value.live) points.value = withReading(points.value, reading)
  }

  useWanted(instances)
  onLive({
    reading: take,
    missed: () => void load(),
    // the end of a silence brings the reason for the gap
    state: (state) => {
      if (!instances.value.includes(state.instance)) return
      const before = states.get(state.instance)
      states.set(state.instance, state.state)
      if (before && before !== state.state) void load()
    },
  })

  return { points, shown, failure, asking, load }
}
