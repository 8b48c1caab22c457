<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { computed } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Limit, LimitInForce, Series } from '@/api/types'
import { useAlerts } from '@/alerts/useAlerts'
import { useInstances } from '@/instances/useInstances'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { onLive } from '@/live/useLive'
import { labelsOf } from '@/series/labels'
import { onWholeBench } from '@/now/arrangement'
import { date, number } from '@/text/format'
import { usePicked } from '@/window/usePicked'
import AllLimits from './AllLimits.vue'
import { CONDITIONS, numberOf, ORIGIN, watchesFor } from './limits'
import { noiseBy, noiseInWords } from './noise'
import { useLink } from '@/window/useLink'

/** The limits of one instance in one table: what is in force on each series, with its origin. */
const { picked } = usePicked()
const { instances } = useInstances()
const { open } = useAlerts()
const { link } = useLink()
const instance = computed(() => instances.value.find((i) => i.id === picked.value[0]))

const {
  answer: told,
  failure,
  again: load,
} = useAnswer(
  () => instance.value?.id,
  async (id, signal) => {
    const [inForce, series, all, noise] = await Promise.all([
      api.limitsInForce(id, signal),
      api.series(id, signal),
      api.limits(signal),
      api.limitNoise(signal),
    ])
    return { ofInstance: inForce.filter((l) => l.series === 0), series, all, noise }
  },
)
onLive({ changed: (what) => what === 'limits' && void load() })
const ofInstance = computed(() => told.value?.ofInstance ?? [])
const series = computed(() => told.value?.series ?? [])
const all = computed(() => told.value?.all ?? [])

const rows = computed(() => [
  ...ofInstance.value.map((limit) => ({ limit, series: undefined })),
  ...series.value.flatMap((s) => s.limits.map((limit) => ({ limit, series: s }))),
])
const off = computed(() =>
  all.value.filter(
    (l) => l.on === false && l.scope.level === 'instance' && l.scope.of === `${instance.value?.id}`,
  ),
)

const words = (limit: LimitInForce, s: Series | undefined, n: number | null) =>
  n === null ? '—' : numberOf(limit.condition, n, s?.unit ?? '')
const stateOf = (limit: LimitInForce) =>
  open.value.find(
    (a) =>
      a.instance === instance.value?.id &&
      a.series === limit.series &&
      a.condition === limit.condition,
  )
const noise = computed(() =>
  noiseBy(
    (told.value?.noise.rang ?? []).filter((one) => one.instance === instance.value?.id),
    (one) => `${one.series} ${one.condition}`,
  ),
)
const rangOf = (limit: LimitInForce) => noise.value(`${limit.series} ${limit.condition}`)
const titleOf = (s: Series | undefined) =>
  s ? [s.title, labelsOf(s)].filter(Boolean).join(' · ') : 'The whole instance'
type Row = (typeof rows.value)[number]
const COLUMNS: Column<Row>[] = [
  { key: 'counter', title: 'Counter', by: (row) => titleOf(row.series) },
  {
    key: 'watches',
    title: 'Watches for',
    by: (row) => watchesFor(row.limit, row.series?.unit ?? ''),
  },
  { key: 'warning', title: '◣ Warning' },
  { key: 'critical', title: '◆ Critical' },
  { key: 'rises', title: 'Rises when' },
  { key: 'clear', title: 'Calm again at' },
  { key: 'now', title: 'Now', by: (row) => WORST[stateOf(row.limit)?.severity ?? ''] ?? 2 },
  { key: 'noise', title: 'In four weeks', n: true, by: (row) => rangOf(row.limit).alerts },
]
const WORST: Record<string, number> = { critical: 0, warning: 1 }
const editor = (s: Series) =>
  link('/now', { pick: instance.value?.id, ...onWholeBench(s, 'limit') })

async function on(limit: Limit) {
  try {
    await api.changeLimit(limit.id, { ...limit, on: null, offReason: '', offUntil: null })
    await load()
  } catch (e) {
    failure.value = inWords(e)
  }
}
</script>

<template>
  <section class="limits" aria-label="Limits">
    <AllLimits v-if="!instance" />
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="instance && !told && !failure" class="soft">Fetching the limits …</p>
    <DataTable
      v-if="instance && rows.length"
      :columns="COLUMNS"
      :rows="rows"
      :row-key="(row) => `${row.limit.series} ${row.limit.condition}`"
      :about="instance.id"
    >
      <template #counter="{ row: { limit, series: s } }">
        <RouterLink v-if="s" class="link" :to="editor(s)">{{ titleOf(s) }}</RouterLink>
        <template v-else>{{ titleOf(s) }}</template>
        <small class="soft from">from {{ ORIGIN[limit.criticalFrom || limit.warningFrom] }}</small>
      </template>
      <template #watches="{ row }">{{ watchesFor(row.limit, row.series?.unit ?? '') }}</template>
      <template #warning="{ row }">{{ words(row.limit, row.series, row.limit.warning) }}</template>
      <template #critical="{ row }">{{
        words(row.limit, row.series, row.limit.critical)
      }}</template>
      <template #rises="{ row: { limit } }"
        ><span class="whole"
          >{{ limit.hold.m }} of {{ limit.hold.n }}, every {{ limit.every }} s</span
        ></template
      >
      <template #clear="{ row: { limit, series: s } }"
        >{{ words(limit, s, limit.clear) }} for {{ limit.clearSeconds }} s</template
      >
      <template #now="{ row: { limit, series: s } }">
        <RouterLink
          v-if="stateOf(limit)"
          :class="stateOf(limit)?.severity"
          :to="link('/alerts', { id: stateOf(limit)?.id })"
          >{{ stateOf(limit)?.state }}</RouterLink
        >
        <span v-else-if="s && s.value !== null">{{ number(s.value, s.unit) }}</span>
        <span v-else-if="s" class="silent">◌ {{ s.why }}</span>
        <span v-else>{{ instance.state.state }}</span>
      </template>
      <template #noise="{ row: { limit } }">{{ noiseInWords(rangOf(limit)) }}</template>
    </DataTable>
    <template v-if="off.length">
      <h2>Switched off here</h2>
      <p v-for="limit in off" :key="limit.id">
        {{ limit.counter || 'silence' }}, {{ CONDITIONS[limit.condition] }}: {{ limit.offReason }}
        <span class="soft">{{
          limit.offUntil ? `until ${date(limit.offUntil)}` : 'until it is switched on'
        }}</span>
        <button v-may="'shape'" class="link" type="button" @click="on(limit)">switch it on</button>
      </p>
    </template>
  </section>
</template>

<style scoped>
.from {
  display: block;
}
.whole {
  white-space: nowrap;
}
h2 {
  padding: 16px 0 4px;
  font-size: 14px;
}
</style>
