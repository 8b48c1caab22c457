<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import type { RankedRow, Series } from '@/api/types'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { labelsOf } from '@/series/labels'
import { number } from '@/text/format'
import { useOverWindow } from '@/window/useOverWindow'

/** A counter that has labels: one row for each, and one for all together, over the window. */
const props = defineProps<{ instance: number; counter: string; about?: Series }>()
const emit = defineEmits<{ close: []; chart: [series: number] }>()
const sort = ref('mean')

/** Live it follows, every ten seconds. */
const { answer, failure } = useOverWindow(
  () => ({ instance: props.instance, counter: props.counter }),
  ({ instance, counter }, from, to, signal) => api.ranking(instance, counter, from, to, signal),
  10_000,
)
const ranking = computed(() => answer.value?.told)

const unit = computed(() => props.about?.unit ?? '')
const total = computed(() => props.about?.shape === 'total')
const rows = computed(() => ranking.value?.rows ?? [])
const shown = (value: number | null, of: string) => (value === null ? '' : number(value, of))
const percent = (share: number | null) => (share === null ? '' : number(share * 100, '%'))
type Key = 'value' | 'mean' | 'max' | 'sum'
const FIGURES = computed<{ key: Key; title: string }[]>(() => [
  { key: 'value', title: 'Value' },
  { key: 'mean', title: total.value ? 'Mean rate' : 'Mean' },
  { key: 'max', title: 'Greatest' },
  ...(total.value ? [{ key: 'sum' as const, title: 'Sum over the window' }] : []),
])
const columns = computed<Column<RankedRow>[]>(() => [
  {
    key: 'name',
    title: Object.keys(rows.value[0]?.labels ?? {}).join(', ') || 'label',
    by: labelsOf,
  },
  ...FIGURES.value.map(({ key, title }) => ({
    key,
    title,
    n: true,
    by: (row: RankedRow) => row[key],
  })),
  { key: 'share', title: 'Share', n: true, by: (row) => row.share },
])
const unitOf = (key: string) => (key === 'sum' ? unit.value.replace(/\/s$/, '') : unit.value)
</script>

<template>
  <div class="title">
    <h2>{{ about?.title ?? counter }}</h2>
    <button class="link" type="button" @click="emit('close')">all counters</button>
  </div>
  <p class="soft">{{ about?.meaning }}</p>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else-if="!ranking" class="soft">Adding up the window …</p>
  <DataTable
    v-else
    v-model:sort="sort"
    :columns="columns"
    :rows="rows"
    :row-key="(row) => `${row.series}`"
    :about="[instance, counter, answer?.asked]"
  >
    <template #name="{ row }">
      <button class="link" type="button" @click="emit('chart', row.series)">
        {{ labelsOf(row) }}
      </button>
    </template>
    <template v-for="{ key } in FIGURES" :key="key" #[key]="{ row }">{{
      shown(row[key], unitOf(key))
    }}</template>
    <template #share="{ row }">{{ percent(row.share) }}</template>
    <template v-if="ranking.all" #foot>
      <tfoot>
        <tr class="all">
          <th scope="row">all together</th>
          <td v-for="{ key } in FIGURES" :key="key" class="n">
            {{ shown(ranking.all[key], unitOf(key)) }}
          </td>
          <td></td>
        </tr>
      </tfoot>
    </template>
  </DataTable>
</template>

<style scoped>
.title {
  display: flex;
  align-items: baseline;
  gap: 16px;
}
h2 {
  font-size: 16px;
}
.all th,
.all td {
  font-weight: 600;
}
</style>
