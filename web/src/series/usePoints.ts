import { computed, shallowRef, watch, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { LiveReading, Points, Series } from '@/api/types'
import { extended } from '@/chart/points'
import { onLive, useWanted } from '@/live/useLive'
import { useQuarter } from '@/window/useQuarter'
import { useWindow } from '@/window/useWindow'

const MOST_POINTS = 360

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
      const found = ids.length ? await api.points(ids, from, to, MOST_POINTS, signal) : []
      return { found, from, to, live, width }
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
  watch(answer, (now) => {
    points.value = Object.fromEntries((now?.found ?? []).map((p) => [p.series, p]))
  })
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

  function take(reading: LiveReading) {
    if (!shown.value.live) return
    let next: Record<number, Points> | undefined
    for (const series of charted.value) {
      const i = reading.series.indexOf(series.id)
      const old = points.value[series.id]
      if (i < 0 || !old) continue
      next ??= { ...points.value }
      next[series.id] = extended(
        old,
        reading.at,
        reading.values[i] ?? null,
        shown.value.from,
        series.interval * 1000,
      )
    }
    if (next) points.value = next
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
