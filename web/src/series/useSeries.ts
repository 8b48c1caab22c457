import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { LiveReading, Series } from '@/api/types'
import { useLive } from '@/live/useLive'
import { isSilent } from '@/shelf/useShelf'

/** What tells a series from the others of its instance. */
export type SeriesKey = { counter: string; labels: Record<string, string> }
export const keyOf = (s: SeriesKey) =>
  [s.counter, ...Object.entries(s.labels).map(([name, value]) => `${name}=${value}`)].join('~')

/** The charts that an instance begins with. */
export const firstView = (series: Series[]) =>
  series
    .filter((s) => s.first >= 0)
    .sort((a, b) => a.first - b.first)
    .map(keyOf)

/** The series of the picked instances with their latest values, as told live. */
export function useSeries(picked: Ref<number[]>) {
  const live = useLive()
  const seriesOf = ref<Record<number, Series[]>>({})
  const failure = ref('')
  const loading = ref(true)
  let asked = 0

  const of = (instance: number) => seriesOf.value[instance] ?? []
  const find = (instance: number, key: string) => of(instance).find((s) => keyOf(s) === key)

  async function load() {
    const ids = picked.value
    const mine = ++asked
    // one that is gone leaves the others as they are
    const lists = await Promise.allSettled(ids.map((id) => api.series(id)))
    if (mine !== asked) return
    seriesOf.value = Object.fromEntries(
      ids.map((id, i) => {
        const list = lists[i]
        return [id, list?.status === 'fulfilled' ? list.value : (seriesOf.value[id] ?? [])]
      }),
    )
    const failed = lists.find((list) => list.status === 'rejected')
    failure.value = failed ? inWords(failed.reason) : ''
    loading.value = false
  }

  function take(reading: LiveReading) {
    const list = seriesOf.value[reading.instance]
    if (!list) return
    const place = new Map(reading.series.map((id, i) => [id, i]))
    const known = new Set(list.map((s) => s.id))
    if (reading.series.some((id) => !known.has(id))) void load()
    for (const series of list) {
      const i = place.get(series.id)
      if (i === undefined) continue
      series.value = reading.values[i] ?? null
      series.why = reading.why[i] ?? ''
    }
  }

  live.want(picked)
  const stop = live.listen({
    reading: take,
    missed: load,
    changed: (what) => what === 'limits' && void load(),
    state: (state) => {
      if (!isSilent({ state })) return
      for (const series of seriesOf.value[state.instance] ?? []) {
        series.value = null
        series.why = 'cut off'
      }
    },
  })
  onScopeDispose(stop)
  watch(picked, load, { immediate: true })

  return { of, find, failure, loading, load }
}
