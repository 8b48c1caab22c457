<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useInstances } from '@/instances/useInstances'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { isSilent } from '@/shelf/useShelf'
import LastChecked from '@/instances/LastChecked.vue'
import { seconds, since, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'

/** All end points in one list: up or down since when and why, and what reading them takes. */
const { instances } = useInstances()
const now = useClock()
const { link } = useLink()
/** What an instance tells live is newer; the rest is fetched with it, at most every 5 s. */
const { answer: points, failure } = useAnswer(
  () => 'all',
  (_, signal) => api.endPoints(signal),
  { follows: () => Math.floor(now.value / 5000) },
)
const picked = useInAddress('point')

const RANK: Record<string, number> = {
  silent: 0,
  unreachable: 0,
  failing: 0,
  starting: 1,
  paused: 2,
  reading: 3,
}
const rows = computed(() => {
  const byId = new Map(instances.value.map((i) => [i.id, i]))
  return (points.value ?? [])
    .flatMap((point) => {
      const instance = byId.get(point.instance)
      return instance ? [{ point, instance, state: instance.state }] : []
    })
    .sort((a, b) => a.instance.name.localeCompare(b.instance.name))
})
type Row = (typeof rows.value)[number]
const sort = useInAddress('sort', 'state')
const COLUMNS: Column<Row>[] = [
  { key: 'name', title: 'Instance', by: (row) => row.instance.name },
  { key: 'address', title: 'Address', by: (row) => row.point.address },
  { key: 'state', title: 'State', by: (row) => RANK[row.state.state] ?? 0 },
  { key: 'last', title: 'Last reading', by: (row) => row.state.lastAt },
  { key: 'trip', title: 'Round trip', n: true, by: (row) => row.point.roundTrip },
  { key: 'took', title: 'Cost of a reading', n: true, by: (row) => row.point.took },
  { key: 'late', title: 'Late by', n: true, by: (row) => row.point.late },
  { key: 'every', title: 'Every', n: true, by: (row) => row.instance.interval },
]
const asked = computed(() => rows.value.filter((row) => row.state.state !== 'paused').length)
/** One that was not read yet has not answered. */
const answer = computed(() => rows.value.filter((row) => row.state.state === 'reading').length)
const SIGN: Record<string, string> = {
  silent: '◌',
  unreachable: '◌',
  failing: '◌',
  paused: '‖',
  starting: '…',
  reading: '',
}
const WORDS: Record<string, string> = {
  silent: 'down',
  unreachable: 'down',
  failing: 'not read',
  reading: 'up',
}
const time = (value: number | null) => (value === null ? '' : seconds(value))
</script>

<template>
  <section aria-label="End points">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="!points && !failure" class="soft empty">Fetching the end points …</p>
    <p v-else-if="points && !rows.length" class="soft empty">
      Nothing is under watch yet. Add an instance on the left, or many from a file on the
      <RouterLink class="link" :to="link('/estate')">estate page</RouterLink>.
    </p>
    <template v-else-if="rows.length">
      <p class="soft sum">
        {{ answer }} of {{ asked }} answer. A reading's cost is the time it takes from the first
        question to the last answer.
      </p>
      <DataTable
        v-model:sort="sort"
        :columns="COLUMNS"
        :rows="rows"
        :row-key="(row) => `${row.instance.id}`"
        :open="picked"
      >
        <template #name="{ row: { instance } }">
          <button
            class="link"
            type="button"
            :aria-expanded="picked === `${instance.id}`"
            @click="picked = picked === `${instance.id}` ? '' : `${instance.id}`"
          >
            {{ instance.name }}
          </button>
        </template>
        <template #address="{ row: { point } }"
          ><span class="address" :title="point.address">{{ point.address }}</span></template
        >
        <template #state="{ row: { instance, state } }">
          <span :class="{ silent: isSilent(instance) }"
            >{{ SIGN[state.state] }} {{ WORDS[state.state] ?? state.state }}
            <template v-if="isSilent(instance)">({{ state.reason }})</template></span
          >{{ ' ' }}<span class="soft">{{ since(state.since, now) }}</span>
          <span v-if="state.restart" class="warning" :title="`waiting: ${state.restart}`">
            ↻ restart due</span
          >
        </template>
        <template #last="{ row: { state } }"
          ><span class="soft">{{
            state.lastAt ? `${span(now - state.lastAt)} ago` : 'never'
          }}</span></template
        >
        <template #trip="{ row }">{{ time(row.point.roundTrip) }}</template>
        <template #took="{ row }">{{ time(row.point.took) }}</template>
        <template #late="{ row }">{{ time(row.point.late) }}</template>
        <template #every="{ row }">{{ row.instance.interval }} s</template>
        <template #more="{ row: { instance, state } }">
          <p v-if="isSilent(instance)">{{ state.words }}</p>
          <p v-if="state.restart">Changed there, but waiting for a restart: {{ state.restart }}.</p>
          <LastChecked :id="instance.id" :since="state.since" />
          <p>
            <RouterLink class="link" :to="link('/now', { pick: instance.id })"
              >look at it now</RouterLink
            >
          </p>
        </template>
      </DataTable>
    </template>
  </section>
</template>

<style scoped>
.sum,
.empty {
  padding: 4px 0 12px;
}
.address {
  display: block;
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
