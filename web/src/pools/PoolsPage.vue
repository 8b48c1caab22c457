<script setup lang="ts">
import { computed } from 'vue'
import type { Series } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import { usesOf } from '@/instances/uses'
import { usePickedInstances } from '@/instances/usePickedInstances'
import ChartGrid, { type Cell } from '@/series/ChartGrid.vue'
import { byLabels, drains, nameOf, type Labelled } from '@/series/labels'
import LabelTable, { type Column } from '@/series/LabelTable.vue'
import { useSeriesThen } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import { seconds } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { usePicked } from '@/window/usePicked'
import { useLink } from '@/window/useLink'
import PoolCheckLine from './PoolCheckLine.vue'

/** Is it threads, pool or queue? Levels against their maximum, who waits, and how long. */
type Part = { caption: string; what: string; prefix: string; columns: Column[]; charts: string[] }
const PARTS: Part[] = [
  {
    caption: 'Request threads',
    what: 'Threads',
    prefix: 'requests.',
    columns: [
      { title: 'Busy', key: 'busy', max: 'max', share: 'busy_share' },
      { title: 'Waiting', key: 'waiting' },
      { title: 'Mean response', key: 'mean_time' },
      { title: 'Requests', key: 'served' },
      { title: 'Longest now', key: 'longest' },
      { title: 'Refused', key: 'refused' },
    ],
    charts: ['busy_share', 'mean_time', 'served', 'waiting', 'refused', 'errors'],
  },
  {
    caption: 'Connection pools',
    what: 'Pool',
    prefix: 'pool.',
    columns: [
      { title: 'In use', key: 'in_use', max: 'max', share: 'in_use_share' },
      { title: 'Waiting', key: 'waiting' },
      { title: 'Mean wait', key: 'mean_wait' },
      { title: 'Mean hold', key: 'mean_hold' },
      { title: 'Handed out', key: 'acquired' },
      { title: 'Timed out waiting', key: 'refused' },
      { title: 'Not returned', key: 'leaked' },
    ],
    charts: ['in_use_share', 'waiting', 'mean_wait', 'mean_hold', 'acquired', 'leaked'],
  },
  {
    caption: 'Queues',
    what: 'Queue',
    prefix: 'queue.',
    columns: [
      { title: 'Pending', key: 'pending' },
      { title: 'In', key: 'in' },
      { title: 'Out', key: 'out' },
      { title: 'Consumers', key: 'consumers' },
      { title: 'Oldest', key: 'oldest' },
      { title: 'Empty in' },
    ],
    charts: ['pending', 'in', 'out', 'oldest', 'consumers'],
  },
]

const { picked } = usePicked()
const here = usePickedInstances()
const { of, loading, failure, when } = useSeriesThen(picked)
const several = computed(() => here.value.length > 1)
const parts = computed(() =>
  PARTS.map((part) => ({
    ...part,
    rows: here.value.flatMap((i) => byLabels(i, of(i.id), part.prefix)),
  })),
)
const all = computed(() =>
  parts.value.flatMap((part) => part.rows.map((row) => ({ row, charts: part.charts }))),
)
const chosen = useInAddress('row')
const shown = computed(
  () =>
    all.value.find(({ row }) => row.id === chosen.value) ??
    all.value.find(({ row }) => 'pool' in row.labels) ??
    all.value[0],
)
const cells = computed<Cell[]>(() => {
  if (!shown.value) return []
  const { row, charts } = shown.value
  const name = several.value ? row.instance.name : undefined
  return charts.flatMap((key) => {
    const series: Series | undefined = row.by[key]
    return series ? [{ series, instance: row.instance.id, name }] : []
  })
})

/** The database of a pool, where somebody has said. */
const { instances } = useInstances()
const { link } = useLink()
const leadsTo = ({ instance, labels }: Labelled) =>
  usesOf(instance, instances.value).find((use) => use.through && use.through === labels.pool)
    ?.instance

function drain({ by }: Labelled) {
  const time = drains(by.pending?.value ?? null, by.in?.value ?? null, by.out?.value ?? null)
  if (time === null) return 'not yet known'
  return time === Infinity ? 'never, at these rates' : time === 0 ? 'empty' : seconds(time)
}
</script>

<template>
  <section aria-label="Pools">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="loading" class="soft empty">Fetching the counters …</p>
    <p v-else-if="!all.length" class="soft empty">
      {{ here.map((i) => i.name).join(', ') }}: no request threads, connection pools or queues are
      told. Pick an application server on the left.
    </p>
    <WhenShown v-if="all.length" :when="when" figures />
    <LabelTable
      v-for="part in parts"
      :key="part.prefix"
      :caption="part.caption"
      :what="part.what"
      :rows="part.rows"
      :columns="part.columns"
      :several="several"
      :picked="shown?.row.id ?? ''"
      @pick="chosen = $event"
    >
      <template #default="{ row }">{{ drain(row) }}</template>
      <template #after="{ row }">
        <template v-if="leadsTo(row)"
          >&nbsp;→
          <RouterLink
            class="link"
            :to="link('/now', { pick: leadsTo(row)?.id })"
            :aria-label="`${nameOf(row)} leads to ${leadsTo(row)?.name}`"
            >{{ leadsTo(row)?.name }}</RouterLink
          ></template
        >
      </template>
    </LabelTable>
    <h2 v-if="shown" class="of">
      {{ nameOf(shown.row)
      }}<span v-if="several" class="soft"> · {{ shown.row.instance.name }}</span>
    </h2>
    <PoolCheckLine
      v-if="shown && 'pool' in shown.row.labels"
      :instance="shown.row.instance.id"
      :pool="shown.row.labels"
      :name="nameOf(shown.row)"
    />
    <ChartGrid :cells="cells" />
  </section>
</template>

<style scoped>
.empty {
  padding: 24px 0;
}
.of {
  padding: 8px 0;
  font-size: 14px;
}
</style>
