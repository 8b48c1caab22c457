import { computed, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Instance } from '@/api/types'
import { usePoints } from '@/series/usePoints'
import { firstView, keyOf, useSeries } from '@/series/useSeries'
import { countersOf, listed, parse, same, unlisted, type Placed } from './arrangement'
import { useArrangements } from './useArrangements'

/** The charts of the picked instances: in the address where they are not those that are kept. */
export function useCharts(picked: Ref<number[]>, leading: Ref<Instance | undefined>) {
  const route = useRoute()
  const router = useRouter()
  const series = useSeries(picked)
  const { find } = series
  const arrangements = useArrangements()
  void arrangements.reload()

  const first = computed(() => series.of(picked.value[0] ?? 0))
  /** What a person has kept; else what is shown first. */
  const kept = computed(() => arrangements.of(leading.value))
  const originals = computed(() => {
    const charts = (kept.value?.charts ?? firstView(first.value)).map(parse)
    return kept.value?.reach === 'kind' ? charts.map(here) : charts
  })
  /** Of a kind the counter is meant: where there is no such pool or queue, the first one there. */
  function here(one: Placed): Placed {
    const id = leading.value?.id ?? 0
    if (find(id, one.key)) return one
    const [counter] = one.key.split('~')
    const other = first.value.find((s) => s.counter === counter)
    return other ? { ...one, key: keyOf(other) } : one
  }
  const placed = computed(() => {
    const asked = String(route.query.charts ?? '')
    return asked ? unlisted(asked) : originals.value
  })
  const changed = computed(() => !same(placed.value, originals.value))
  const chosen = computed(() => placed.value.map((p) => p.key))
  const charted = computed(() =>
    picked.value.flatMap((instance) =>
      countersOf(placed.value).flatMap((key) => find(instance, key) ?? []),
    ),
  )
  const drawn = usePoints(charted, picked)

  function choose(charts: Placed[]) {
    const asked = charts.length && !same(charts, originals.value)
    void router.push({
      path: route.path,
      query: { ...route.query, charts: asked ? listed(charts) : undefined },
    })
  }

  return {
    first,
    placed,
    chosen,
    changed,
    kept,
    choose,
    find,
    points: drawn.points,
    busy: drawn.asking,
    shown: drawn.shown,
    loading: computed(() => series.loading.value || !arrangements.loaded.value),
    failure: computed(() => series.failure.value || drawn.failure.value),
    reload: () => {
      void series.load()
      void drawn.load()
    },
  }
}
