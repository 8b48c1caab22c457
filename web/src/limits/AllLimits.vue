<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Limit } from '@/api/types'
import { KINDS } from '@/instances/kinds'
import { useInstances } from '@/instances/useInstances'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { onLive } from '@/live/useLive'
import { onWholeBench } from '@/now/arrangement'
import { span } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'
import { isOfInstance, numberOf, watchesFor } from './limits'
import ManyLimits from './ManyLimits.vue'
import { labelsInWords, noiseInWords, noiseBy, wordsOf, type Noise } from './noise'

/** Every limit that is set, with what it told in the last four weeks: the noisiest first. */
const { instances } = useInstances()
const { link } = useLink()
const words = useInAddress('words', '', 'replace')
const {
  answer: told,
  failure,
  again: load,
} = useAnswer(
  () => 'all',
  async (_, signal) => {
    const [limits, noise] = await Promise.all([api.limits(signal), api.limitNoise(signal)])
    return { limits, noise }
  },
)
onLive({ changed: (what) => what === 'limits' && void load() })

/** Their names alone: the rest changes with each reading. */
const names = computed<Record<string, string>>((before) => {
  const now = Object.fromEntries(instances.value.map((i) => [`${i.id}`, i.name]))
  return before && JSON.stringify(before) === JSON.stringify(now) ? before : now
})
const scopeOf = ({ scope }: Limit) =>
  scope.level === 'kind'
    ? `all of its kind: ${KINDS[scope.of] ?? scope.of}`
    : scope.level === 'group'
      ? `the group ${scope.of}`
      : (names.value[scope.of] ?? `instance ${scope.of}`)
const counters = computed(
  () => new Map(told.value?.noise.counters.map((counter) => [counter.key, counter])),
)
const counterOf = (limit: Limit) => counters.value.get(limit.counter)
const titleOf = (limit: Limit) =>
  isOfInstance(limit)
    ? 'The whole instance'
    : [counterOf(limit)?.title ?? limit.counter, ...labelsInWords(limit.labels)].join(' · ')

const watchedFor = (limit: Limit) => watchesFor(limit, counterOf(limit)?.unit ?? '')

const noiseOf = computed(() => noiseBy(told.value?.noise.rang ?? [], (one) => `${one.rule}`))
const all = computed(() =>
  (told.value?.limits ?? [])
    .map((limit) => {
      const [title, scope] = [titleOf(limit), scopeOf(limit)]
      const noise = noiseOf.value(`${limit.id}`)
      return { limit, title, scope, noise, words: wordsOf(limit, title, scope) }
    })
    .sort((a, b) => b.noise.alerts - a.noise.alerts),
)
const rows = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  return all.value.filter((row) => wanted.every((word) => row.words.includes(word)))
})
type Row = (typeof rows.value)[number]
/** On average, ms. */
const settledAfter = (noise: Noise) => noise.inAlert / Math.max(1, noise.alerts)
const seenAfter = (noise: Noise) => noise.untilAcknowledged / Math.max(1, noise.acknowledged)
const COLUMNS: Column<Row>[] = [
  { key: 'counter', title: 'Counter', by: (row) => row.title },
  { key: 'watches', title: 'Watches for', by: (row) => watchedFor(row.limit) },
  { key: 'warning', title: '◣ Warning' },
  { key: 'critical', title: '◆ Critical' },
  { key: 'scope', title: 'Set for', by: (row) => row.scope },
  { key: 'noise', title: 'Alerts in four weeks', n: true, by: (row) => row.noise.alerts },
  { key: 'long', title: 'Settled after', n: true, by: (row) => settledAfter(row.noise) },
  { key: 'seen', title: 'Acknowledged after', n: true, by: (row) => seenAfter(row.noise) },
]

const ticked = ref(new Set<number>())
/** Those that are ticked, whether the filter shows them or not. */
const chosen = computed(() =>
  all.value
    .filter((row) => ticked.value.has(row.limit.id))
    .map((row) => ({
      ...row,
      unit: counterOf(row.limit)?.unit ?? '',
      alerts: row.noise.alerts,
    })),
)
const isWhole = computed(
  () => rows.value.length > 0 && rows.value.every((row) => ticked.value.has(row.limit.id)),
)
function tick(limits: Limit[], on: boolean) {
  const now = new Set(ticked.value)
  for (const { id } of limits) {
    if (on) now.add(id)
    else now.delete(id)
  }
  ticked.value = now
}
const MOST = 500
const editing = ref(false)
function close() {
  editing.value = false
  ticked.value = new Set()
}
const inWords = (limit: Limit, n: number | null) =>
  n === null ? '—' : numberOf(limit.condition, n, counterOf(limit)?.unit ?? '')
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else-if="!told" class="soft">Fetching the limits …</p>
  <template v-else>
    <ElInput
      v-model="words"
      class="find"
      placeholder="a counter, a group, an instance"
      aria-label="Find limits"
      clearable
    />
    <p class="soft sum">
      {{ rows.length }} of {{ all.length }} limits. Pick an instance to see what is in force on it,
      and to change it; or tick several to change them at once.
      <ElButton
        v-if="chosen.length && !editing"
        v-may="'shape'"
        :disabled="chosen.length > MOST"
        @click="editing = true"
        >Change {{ chosen.length }} …</ElButton
      >
      <template v-if="chosen.length > MOST"> At most {{ MOST }} at once.</template>
    </p>
    <ManyLimits v-if="editing" :chosen="chosen" @saved="load" @close="close" />
    <DataTable
      label="All limits"
      :columns="COLUMNS"
      :rows="rows"
      :row-key="(row) => `${row.limit.id}`"
      :about="words"
    >
      <template #head-counter>
        <input
          type="checkbox"
          :checked="isWhole"
          aria-label="Tick all that are shown"
          @change="
            tick(
              rows.map((row) => row.limit),
              !isWhole,
            )
          "
        />
      </template>
      <template #counter="{ row }"
        ><input
          type="checkbox"
          :checked="ticked.has(row.limit.id)"
          :aria-label="`${row.title}, ${row.scope}`"
          @change="tick([row.limit], !ticked.has(row.limit.id))"
        />
        {{ row.title
        }}<span v-if="row.limit.on === false" class="soft">
          · off: {{ row.limit.offReason }}</span
        ></template
      >
      <template #watches="{ row }">{{ watchedFor(row.limit) }}</template>
      <template #warning="{ row }">{{ inWords(row.limit, row.limit.warning) }}</template>
      <template #critical="{ row }">{{ inWords(row.limit, row.limit.critical) }}</template>
      <template #scope="{ row }">
        <RouterLink
          v-if="row.limit.scope.level === 'instance'"
          class="link"
          :to="link('/limits', { pick: row.limit.scope.of })"
          >{{ row.scope }}</RouterLink><template v-else>{{ row.scope }}</template>
      </template>
      <template #noise="{ row }"
        >{{ noiseInWords(row.noise) }}
        <RouterLink
          v-if="row.noise.most?.series"
          class="link"
          :to="
            link('/now', {
              pick: row.noise.most.instance,
              ...onWholeBench(row.noise.most, 'limit'),
            })
          "
          :title="`tried on the past of ${names[row.noise.most.instance] ?? 'it'}, where it rang most`"
          >retune</RouterLink
        ></template
      >
      <template #long="{ row }">{{
        row.noise.alerts ? span(settledAfter(row.noise)) : '–'
      }}</template>
      <template #seen="{ row }">{{
        row.noise.acknowledged
          ? `${span(seenAfter(row.noise))} (${row.noise.acknowledged} of ${row.noise.alerts})`
          : '–'
      }}</template>
    </DataTable>
  </template>
</template>

<style scoped>
.find {
  max-width: 320px;
}
.sum {
  padding: 8px 0;
}
</style>
