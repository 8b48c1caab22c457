<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { RankedRow, Series } from '@/api/types'
import { number } from '@/text/format'
import { useWindow } from '@/window/useWindow'

/** A counter that has labels: one row for each, and one for all together, over the window. */
const props = defineProps<{ instance: number; counter: string; about?: Series }>()
const emit = defineEmits<{ close: []; chart: [series: number] }>()
const window = useWindow()
const by = ref<'mean' | 'max' | 'sum' | 'value'>('mean')

/** Live it follows, every ten seconds. */
const { answer: ranking, failure } = useAnswer(
  () => ({ instance: props.instance, counter: props.counter }),
  ({ instance, counter }, signal) =>
    api.ranking(
      instance,
      counter,
      Math.round(window.from.value),
      Math.round(window.to.value),
      signal,
    ),
  {
    instead: () => (window.live.value ? window.width.value : [window.from.value, window.to.value]),
    follows: () => window.live.value && Math.floor(window.to.value / 10_000),
  },
)

const unit = computed(() => props.about?.unit ?? '')
const total = computed(() => props.about?.shape === 'total')
const rows = computed(() =>
  [...(ranking.value?.rows ?? [])].sort(
    (a, b) => (b[by.value] ?? -Infinity) - (a[by.value] ?? -Infinity),
  ),
)
const shown = (value: number | null, of: string) => (value === null ? '' : number(value, of))
const percent = (share: number | null) => (share === null ? '' : number(share * 100, '%'))
const nameOf = (row: RankedRow) => Object.values(row.labels).join(', ')
const COLUMNS = computed(() => [
  { key: 'value' as const, title: 'Now' },
  { key: 'mean' as const, title: total.value ? 'Mean rate' : 'Mean' },
  { key: 'max' as const, title: 'Greatest' },
  ...(total.value ? [{ key: 'sum' as const, title: 'Sum over the window' }] : []),
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
  <table v-else class="rows">
    <thead>
      <tr>
        <th>{{ Object.keys(rows[0]?.labels ?? {}).join(', ') || 'label' }}</th>
        <th
          v-for="column in COLUMNS"
          :key="column.key"
          class="n"
          :aria-sort="by === column.key ? 'descending' : undefined"
        >
          <button class="link" type="button" @click="by = column.key">{{ column.title }}</button>
        </th>
        <th class="n">Share</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.series">
        <th scope="row">
          <button class="link" type="button" @click="emit('chart', row.series)">
            {{ nameOf(row) }}
          </button>
        </th>
        <td v-for="column in COLUMNS" :key="column.key" class="n">
          {{ shown(row[column.key], unitOf(column.key)) }}
        </td>
        <td class="n">{{ percent(row.share) }}</td>
      </tr>
      <tr v-if="ranking.all" class="all">
        <th scope="row">all together</th>
        <td v-for="column in COLUMNS" :key="column.key" class="n">
          {{ shown(ranking.all[column.key], unitOf(column.key)) }}
        </td>
        <td></td>
      </tr>
    </tbody>
  </table>
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
.n {
  text-align: right;
}
.all th,
.all td {
  font-weight: 600;
}
</style>
