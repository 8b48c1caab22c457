import { computed, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { usePoints } from '@/series/usePoints'
import { firstView, useSeries } from '@/series/useSeries'

/** The charts of the picked instances: which there are is in the address. */
export function useCharts(picked: Ref<number[]>) {
  const route = useRoute()
  const router = useRouter()
  const series = useSeries(picked)
  const { find } = series

  const first = computed(() => series.of(picked.value[0] ?? 0))
  const originals = computed(() => firstView(first.value))
  const chosen = computed(() => {
    const asked = String(route.query.charts ?? '')
    return asked ? asked.split(',') : originals.value
  })
  const charted = computed(() =>
    picked.value.flatMap((instance) => chosen.value.flatMap((key) => find(instance, key) ?? [])),
  )
  const drawn = usePoints(charted)

  function choose(keys: string[]) {
    const same = keys.join() === originals.value.join()
    const charts = keys.length && !same ? keys.join(',') : undefined
    void router.push({ path: route.path, query: { ...route.query, charts } })
  }

  return {
    first,
    chosen,
    originals,
    choose,
    find,
    points: drawn.points,
    window: drawn.window,
    loading: series.loading,
    failure: computed(() => series.failure.value || drawn.failure.value),
    reload: () => {
      void series.load()
      void drawn.load()
    },
  }
}
