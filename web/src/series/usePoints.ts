import { useIntervalFn } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { LiveReading, Points, Series } from '@/api/types'
import { extended } from '@/chart/points'
import { useLive } from '@/live/useLive'
import { useWindow } from '@/window/useWindow'

const MOST_POINTS = 360
const NORMAL_MOVES_MS = 5 * 60_000

/** The points of the charted series in the window, going on live. */
export function usePoints(charted: Ref<Series[]>) {
  const window = useWindow()
  const live = useLive()
  const points = shallowRef<Record<number, Points>>({})
  const failure = ref('')
  const states = new Map<number, string>()
  let asked = 0

  async function load() {
    if (charted.value.length === 0) return
    const mine = ++asked
    try {
      const found = await api.points(
        charted.value.map((s) => s.id),
        Math.round(window.from.value),
        Math.round(window.to.value),
        MOST_POINTS,
      )
      if (mine !== asked) return
      points.value = Object.fromEntries(found.map((p) => [p.series, p]))
      failure.value = ''
    } catch (e) {
      if (mine === asked) failure.value = inWords(e)
    }
  }

  function take(reading: LiveReading) {
    if (!window.live.value) return
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
        window.from.value,
        series.interval * 1000,
      )
    }
    if (next) points.value = next
  }

  const stop = live.listen({
    reading: take,
    missed: load,
    // the end of a silence brings the reason for the gap
    state: (state) => {
      if (states.get(state.instance) !== state.state) void load()
      states.set(state.instance, state.state)
    },
  })
  onScopeDispose(stop)
  // normal goes on with the quarter-hours
  useIntervalFn(() => window.live.value && void load(), NORMAL_MOVES_MS)
  watch(() => charted.value.map((s) => s.id).join(), load, { immediate: true })
  watch([window.live, window.width, () => (window.live.value ? 0 : window.to.value)], load)

  return { points, failure, load, window }
}
