<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Session } from '@/api/types'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { GROUPS, grouped, type SessionGroup } from './groups'
import { age } from './words'

/** Sessions of a moment put together by what they have in common: which of them are many? */
const props = defineProps<{ sessions: Session[]; by: string; about: unknown }>()
const sort = ref('count')
const rows = computed(() => grouped(props.sessions, props.by))
const COLUMNS = computed<Column<SessionGroup>[]>(() => [
  {
    key: 'name',
    title: GROUPS.find((group) => group.key === props.by)?.words ?? '',
    by: (g) => g.name,
  },
  { key: 'count', title: 'Sessions', n: true, by: (g) => g.count },
  { key: 'share', title: 'Share', n: true, by: (g) => g.share },
  { key: 'waited', title: 'Longest waiting', n: true, by: (g) => g.waitedMs },
  { key: 'transaction', title: 'Longest in transaction', n: true, by: (g) => g.transactionMs },
])
</script>

<template>
  <DataTable
    v-model:sort="sort"
    label="Groups of sessions"
    :columns="COLUMNS"
    :rows="rows"
    :row-key="(g) => g.name"
    :about="[about, by]"
  >
    <template #name="{ row: g }"
      ><span class="name" :title="g.name">{{ g.name || 'nothing told' }}</span></template
    >
    <template #count="{ row: g }">{{ g.count }}</template>
    <template #share="{ row: g }">{{ Math.round(g.share * 100) }} %</template>
    <template #waited="{ row: g }">{{ age(g.waitedMs) }}</template>
    <template #transaction="{ row: g }">{{ age(g.transactionMs) }}</template>
  </DataTable>
</template>

<style scoped>
.name {
  display: block;
  max-width: 520px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
