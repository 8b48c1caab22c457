<script setup lang="ts">
import { computed } from 'vue'
import { usePickedInstances } from '@/instances/usePickedInstances'
import ChartGrid, { type Cell } from '@/series/ChartGrid.vue'
import { byLabels } from '@/series/labels'
import LabelTable from '@/series/LabelTable.vue'
import LevelBar from '@/series/LevelBar.vue'
import { useSeriesThen } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import ValueCell from '@/series/ValueCell.vue'
import LeakLine from './LeakLine.vue'
import { usePicked } from '@/window/usePicked'

/** Is it the heap? The floor, the pools of memory, the collections, and what the threads do. */
const CHARTS = [
  'old_generation.floor_share',
  'heap.used',
  'collections.pause_share',
  'memory.allocated',
  'collections.mean_pause',
  'threads.live',
]
const { picked } = usePicked()
const { of, find, loading, failure, when } = useSeriesThen(picked)
const here = usePickedInstances()
const several = computed(() => here.value.length > 1)
const parts = computed(() => here.value.flatMap((i) => byLabels(i, of(i.id), 'memory.pool_')))
const collectors = computed(() =>
  here.value.flatMap((i) =>
    byLabels(i, of(i.id), 'collections.').filter((row) => row.labels.collector),
  ),
)
const states = computed(() =>
  here.value.flatMap((i) => byLabels(i, of(i.id), 'threads.').filter((row) => row.labels.state)),
)
const cells = computed<Cell[]>(() =>
  CHARTS.flatMap((key) =>
    here.value.flatMap((instance, i) => {
      const series = find(instance.id, key)
      return series
        ? [
            {
              series,
              instance: instance.id,
              name: several.value ? instance.name : undefined,
              colour: i + 1,
            },
          ]
        : []
    }),
  ),
)
const leads = computed(() =>
  here.value.map((instance) => ({
    instance,
    floor: find(instance.id, 'old_generation.floor'),
    max: find(instance.id, 'old_generation.max'),
    share: find(instance.id, 'old_generation.floor_share'),
    used: find(instance.id, 'heap.used'),
    heapMax: find(instance.id, 'heap.max'),
    pauses: find(instance.id, 'collections.pause_share'),
    resident: find(instance.id, 'memory.resident'),
    outside: find(instance.id, 'memory.outside_heap'),
  })),
)
</script>

<template>
  <section aria-label="Memory">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="loading" class="soft empty">Fetching the counters …</p>
    <p v-else-if="!cells.length" class="soft empty">
      {{ here.map((i) => i.name).join(', ') }} tells nothing of a heap. Pick a JVM or an application
      server on the left.
    </p>
    <template v-else>
      <WhenShown :when="when" figures />
      <LeakLine v-for="i in here" :key="i.id" :instance="i" :named="several" />
      <table class="rows">
        <thead>
          <tr>
            <th>Heap</th>
            <th>Floor of the old generation</th>
            <th>Used now</th>
            <th>Lost to collections</th>
            <th>Outside the heap</th>
            <th>Resident</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in leads" :key="row.instance.id">
            <th scope="row">{{ row.instance.name }}</th>
            <td><LevelBar :level="row.floor" :max="row.max" :share="row.share" /></td>
            <td><LevelBar :level="row.used" :max="row.heapMax" /></td>
            <td><ValueCell :series="row.pauses" /></td>
            <td><ValueCell :series="row.outside" /></td>
            <td><ValueCell :series="row.resident" /></td>
          </tr>
        </tbody>
      </table>
      <ChartGrid :cells="cells" />
      <div class="tables">
        <LabelTable
          what="Pool of memory"
          :rows="parts"
          :columns="[
            { title: 'Used', key: 'used', max: 'max' },
            { title: 'After collection', key: 'after' },
          ]"
          :several="several"
        />
        <div>
          <LabelTable
            what="Collector"
            :rows="collectors"
            :columns="[
              { title: 'Collections', key: 'count' },
              { title: 'Time', key: 'time' },
              { title: 'Mean pause', key: 'mean_pause' },
            ]"
            :several="several"
          />
          <LabelTable
            what="Threads"
            :rows="states"
            :columns="[{ title: 'Now', key: 'state' }]"
            :several="several"
          />
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.empty {
  padding: 24px 0;
}
.tables {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: start;
  gap: 24px;
  padding-top: 12px;
}
</style>
