import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { LiveReading, Series } from '@/api/types'
import { onLive, useWanted } from '@/live/useLive'
import { isSilent } from '@/shelf/useShelf'
import { useQuarter } from '@/window/useQuarter'
import { askingForUnknown } from './asking'
import { useThen } from './useThen'

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

type Lists = Record<number, Series[]>
const same = (lists: Ref<Lists>) => lists

/** What a reading tells, in the places of the series it tells of. */
export function withReading(list: Series[], reading: LiveReading): Series[] {
  const place = new Map(reading.series.map((id, i) => [id, i]))
  return list.map((series) => {
    const i = place.get(series.id)
    return i === undefined
      ? series
      : {
          ...series,
          value: reading.values[i] ?? null,
          why: reading.why[i] ?? '',
          distance: reading.distance[i] ?? null,
        }
  })
}

/** The lists of those that were shown a moment ago: they are there again at once, and asked for. */
const KEPT_MS = 30_000
const MOST_KEPT = 16
const kept = new Map<number, { list: Series[]; at: number }>()

function keep(lists: Lists) {
  for (const [id, list] of Object.entries(lists)) {
    kept.delete(Number(id))
    if (list.length) kept.set(Number(id), { list, at: Date.now() })
  }
  for (const id of [...kept.keys()].slice(0, -MOST_KEPT)) kept.delete(id)
}

function keptOf(ids: number[]): Lists {
  const found: Lists = {}
  for (const id of ids) {
    const one = kept.get(id)
    if (one && Date.now() - one.at < KEPT_MS) found[id] = one.list
  }
  return found
}

/** The series of the picked instances with their latest values, as told live. */
export function useSeries(picked: Ref<number[]>, shown: (lists: Ref<Lists>) => Ref<Lists> = same) {
  const lists = shallowRef<Lists>(keptOf(picked.value))
  const failed = ref('')
  const quarter = useQuarter()
  const wanted = () => picked.value.join()

  const {
    answer,
    failure,
    again: load,
  } = useAnswer(
    () => 'series',
    async (_, signal) => {
      const ids = picked.value
      // one that is gone leaves the others as they are
      const found = await Promise.allSettled(ids.map((id) => api.series(id, signal)))
      return { ids, found }
    },
    { instead: wanted, follows: () => quarter.value },
  )
  watch(answer, (now) => {
    if (!now) return
    const next: Lists = {}
    now.ids.forEach((id, i) => {
      const list = now.found[i]
      next[id] = list?.status === 'fulfilled' ? list.value : (lists.value[id] ?? [])
    })
    lists.value = next
    const one = now.found.find((list) => list.status === 'rejected')
    failed.value = one ? inWords(one.reason) : ''
  })

  watch(wanted, () => (lists.value = { ...keptOf(picked.value), ...lists.value }))
  watch(lists, keep)

  const told = shown(lists)
  const of = (instance: number) => told.value[instance] ?? []
  const find = (instance: number, key: string) => of(instance).find((s) => keyOf(s) === key)
  const put = (instance: number, list: Series[]) => {
    lists.value = { ...lists.value, [instance]: list }
  }

  const asks = askingForUnknown()
  function take(reading: LiveReading) {
    const list = lists.value[reading.instance]
    if (!list) return
    const known = new Set(list.map((s) => s.id))
    const others = reading.series.filter((id) => !known.has(id)).join()
    if (asks(others)) void load()
    put(reading.instance, withReading(list, reading))
  }

  useWanted(picked)
  onLive({
    reading: take,
    missed: () => void load(),
    changed: (what) => what === 'limits' && void load(),
    state: (state) => {
      const list = lists.value[state.instance]
      if (!list || !isSilent({ state })) return
      put(
        state.instance,
        list.map((series) => ({ ...series, value: null, why: 'cut off', distance: null })),
      )
    },
  })

  return {
    of,
    find,
    failure: computed(() => failed.value || failure.value),
    loading: computed(() => picked.value.some((id) => !(id in lists.value)) && !failure.value),
    load,
  }
}

/** The same as they were at the moment that is looked at. */
export function useSeriesThen(picked: Ref<number[]>) {
  let then!: ReturnType<typeof useThen>
  const series = useSeries(picked, (lists) => {
    then = useThen(lists)
    return then.lists
  })
  const failure = computed(() => series.failure.value || then.failure.value)
  return { ...series, failure, when: then.when }
}
