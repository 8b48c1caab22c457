<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Execution } from '@/api/types'
import CsvButton from '@/list/CsvButton.vue'
import type { Column } from '@/list/columns'
import { iso, type CsvColumn } from '@/list/csv'
import DataTable from '@/list/DataTable.vue'
import { waitKind } from '@/sessions/words'
import { clockWithSeconds, many, seconds, span, windowInWords } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'
import { useOverWindow } from '@/window/useOverWindow'
import { standing } from '@/window/useWindow'
import ExecutionStrip from './ExecutionStrip.vue'
import { asText, edgeMs, fromText, length } from './strip'

/** Executions one by one: first as a strip, then those that are picked of it, then one of them. */
const props = defineProps<{ instance: number }>()
const emit = defineEmits<{ statement: [fingerprint: string] }>()
const STEPS = 120
const STEP_BACK = 60_000
const { link } = useLink()
const kept = useInAddress('picked', '', 'replace')
/** A key that is held moves it many times a second: the address and the answer follow when it rests. */
const picked = ref(kept.value)
/** What was written to the address and may come back from it late: older than what is picked by then. */
const written = new Set<string>()
watchDebounced(
  picked,
  (text) => {
    written.add(text)
    kept.value = text
  },
  { debounce: 250 },
)
watch(kept, (text) => {
  if (text === picked.value) written.clear()
  else if (!written.has(text)) picked.value = text
})
const pick = computed({
  get: () => fromText(picked.value),
  set: (to) => (picked.value = asText(to)),
})
const open = ref('')

const { answer, failure } = useOverWindow(
  () => props.instance,
  async (id, from, to, signal) => {
    const of = kept.value
    const found = await api.executions(id, { from, to, steps: STEPS, ...fromText(of) }, signal)
    return { ...found, of }
  },
  20_000,
  // the strip stays, and who moves what is picked keeps the focus
  () => kept.value,
)
const told = computed(() => answer.value?.told)
/** Of what is picked now, not of what was before. */
const isOfPick = computed(() => told.value?.of === picked.value)
const words = computed(() => {
  const p = pick.value
  if (!p || !told.value || !isOfPick.value) return ''
  const lengths = `${seconds(edgeMs(p.lowest) / 1000)} – ${seconds(edgeMs(p.highest + 1) / 1000)}`
  return `picked: ${windowInWords(p.begin, p.end)}, ${lengths}: ${many(told.value.count, 'execution')}`
})
const source = computed(() => {
  const t = told.value
  if (!t) return ''
  return t.source === 'log'
    ? `from the engine's own log, over ${seconds(t.leastMs / 1000)}`
    : `as samples saw them${t.everyMs ? ` every ${span(t.everyMs)}` : ''}, over ${seconds(t.leastMs / 1000)}`
})
const COLUMNS: Column<Execution>[] = [
  { key: 'ended', title: 'Ended', by: (e) => e.ended, first: 'descending' },
  { key: 'ran', title: 'Ran', n: true, by: (e) => e.leastMs },
  { key: 'who', title: 'User · program', by: (e) => `${e.user} ${e.program}` },
  { key: 'how', title: 'How', by: (e) => e.ending },
  { key: 'statement', title: 'Statement', by: (e) => e.text },
]
const CSV: CsvColumn<Execution>[] = [
  ['began', (e) => iso(e.started)],
  ['ended', (e) => iso(e.ended)],
  ['ms at least', (e) => e.leastMs],
  ['ms at most', (e) => e.mostMs],
  ['ending', (e) => e.ending],
  ['session', (e) => e.pid],
  ['user', (e) => e.user],
  ['program', (e) => e.program],
  ['database', (e) => e.database],
  ['waited for', (e) => e.waitedFor],
  ['behind', (e) => e.blocker || null],
  ['fingerprint', (e) => e.statement],
  ['statement', (e) => e.text],
]
const sort = ref('ran')
const keyOf = (e: Execution) => `${e.pid} ${e.started} ${e.ended}`
function how(e: Execution): string {
  const wait = e.waitedFor === 'Client' ? 'its client' : e.waitedFor && waitKind(e.waitedFor)
  const waited = wait ? `waited for ${wait}${e.blocker ? ` behind ${e.blocker}` : ''}` : ''
  return [e.ending === 'seen running' || e.ending === 'finished' ? '' : e.ending, waited]
    .filter(Boolean)
    .join(', ')
}
</script>

<template>
  <section aria-label="Single executions" class="single">
    <h2>
      Single executions <span class="soft">{{ source }} · how long, when, how many</span>
    </h2>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="!told" class="soft">Looking through the samples …</p>
    <template v-else-if="answer">
      <ExecutionStrip
        v-model="pick"
        :cells="told.cells"
        :from="answer.from"
        :to="answer.to"
        :step-ms="told.stepMs"
        :least-ms="told.leastMs"
        :shorter="told.source === 'log' ? 'not logged' : 'not looked for'"
        :words="words"
      />
      <p class="soft told">
        <template v-if="pick && !isOfPick">Looking for what is picked …</template>
        <template v-else-if="words"
          >{{ words }}
          <button type="button" class="link" @click="pick = undefined">let go</button></template
        >
        <template v-else
          >{{ many(told.count, 'execution') }}; drag over the strip to pick some of them.</template
        >
        <template v-if="told.why"> Not from its log: {{ told.why }}</template>
        <template v-if="told.beyond"> {{ told.beyond }} shorter ones are left out.</template>
      </p>
      <DataTable
        v-if="isOfPick && told.executions.length"
        v-model:sort="sort"
        label="Executions"
        :columns="COLUMNS"
        :rows="told.executions"
        :row-key="keyOf"
        :about="[instance, kept, answer.asked]"
        :open="open"
      >
        <template #ended="{ row: e }">
          <button
            type="button"
            class="link"
            :aria-expanded="open === keyOf(e)"
            @click="open = open === keyOf(e) ? '' : keyOf(e)"
          >
            {{ clockWithSeconds(e.ended) }}
          </button>
        </template>
        <template #ran="{ row: e }">{{ length(e) }}</template>
        <template #who="{ row: e }">{{ [e.user, e.program].filter(Boolean).join(' · ') }}</template>
        <template #how="{ row: e }">{{ how(e) }}</template>
        <template #statement="{ row: e }">
          <code class="text" :title="e.text">{{ e.text }}</code>
        </template>
        <template #more="{ row: e }">
          <pre class="whole"><code>{{ e.text || 'Its text is not known.' }}</code></pre>
          <p class="soft">
            session {{ e.pid }} of {{ e.database }} · began {{ clockWithSeconds(e.started) }} ·
            {{ length(e) }}{{ how(e) && `, ${how(e)}` }}
          </p>
          <p class="ways">
            <RouterLink
              class="link"
              :to="link('/sessions', standing(e.started - STEP_BACK, e.ended))"
              >its session then</RouterLink
            >
            <RouterLink class="link" :to="link('/locks', standing(e.started - STEP_BACK, e.ended))"
              >locks then</RouterLink
            >
            <button
              v-if="e.statement"
              type="button"
              class="link"
              @click="emit('statement', e.statement)"
            >
              the statement over time
            </button>
          </p>
        </template>
      </DataTable>
      <p v-if="isOfPick && told.executions.length" class="soft told">
        <template v-if="told.count > told.executions.length"
          >The longest {{ told.executions.length }} of {{ told.count }}.</template
        >
        <CsvButton name="executions" :columns="CSV" :rows="told.executions" />
      </p>
    </template>
  </section>
</template>

<style scoped>
.single {
  padding-top: 16px;
}
h2 {
  padding-bottom: 6px;
  font-size: 14px;
  font-weight: 600;
}
h2 .soft {
  font-weight: 400;
}
.told {
  padding: 4px 0 8px;
  font-size: 12.5px;
}
.text {
  display: block;
  max-width: 420px;
  overflow: hidden;
  font-size: 12.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.whole {
  max-height: 200px;
  overflow: auto;
  font-size: 12.5px;
  white-space: pre-wrap;
}
.ways {
  display: flex;
  gap: 16px;
}
</style>
