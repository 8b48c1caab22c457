<script setup lang="ts">
import { ElButton, ElInput, ElInputNumber } from 'element-plus'
import '@/look/choices'
import { computed, onScopeDispose, reactive, ref, watch } from 'vue'
import { api, inWords } from '@/api/client'
import type { Limit } from '@/api/types'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { many } from '@/text/format'
import { useUnsaved } from '@/unsaved/useUnsaved'
import { useClock } from '@/window/useClock'
import { numberOf } from './limits'
import { canBeTried, changed, differs, faultOf, type ManyChange } from './many'

/** Several limits changed at once: what becomes of each is seen, and tried on the past, before it is saved. */
type Chosen = { limit: Limit; title: string; scope: string; unit: string; alerts: number }
const props = defineProps<{ chosen: Chosen[] }>()
const emit = defineEmits<{ saved: []; close: [] }>()

const WEEKS = 4
const now = useClock()
const HOW = { stays: 'stays', set: 'set to', times: 'times' }
const change = reactive<ManyChange>({
  warning: { how: 'stays', number: null },
  critical: { how: 'stays', number: null },
  state: 'stays',
  reason: '',
  until: null,
})
const until = ref('')
watch(until, (text) => (change.until = Date.parse(text) || null))

const rows = computed(() =>
  props.chosen.map((one) => {
    const to = changed(one.limit, change)
    return { ...one, to, differs: differs(one.limit, to), fault: faultOf(to) }
  }),
)
type Row = (typeof rows.value)[number]
const changing = computed(() => rows.value.filter((row) => row.differs))
const cannot = computed(() => {
  if (change.state === 'off' && !change.reason.trim()) return 'Say why they are switched off.'
  if (change.state === 'off' && change.until !== null && change.until <= now.value)
    return 'They would be on again already.'
  const faulty = changing.value.find((row) => row.fault)
  return faulty ? `${faulty.title}, ${faulty.scope}: ${faulty.fault}.` : ''
})

const NAMES = { warning: '◣ Warning', critical: '◆ Critical' }
const COLUMNS: Column<Row>[] = [
  { key: 'counter', title: 'Counter' },
  { key: 'scope', title: 'Set for' },
  { key: 'warning', title: NAMES.warning },
  { key: 'critical', title: NAMES.critical },
  { key: 'clear', title: 'Calm again at' },
  { key: 'was', title: 'Alerts in four weeks', n: true },
  { key: 'would', title: 'as it would be', n: true },
]
const words = (row: Row, n: number | null | undefined) =>
  n === null || n === undefined ? '—' : numberOf(row.limit.condition, n, row.unit)

/** Of each, how often it would have rung, or that it is not known, and why. */
const would = ref<Record<number, { told: string; why?: string }>>({})
const trying = ref(false)
let going: AbortController | undefined
const asked = computed(() => JSON.stringify(changing.value.map((row) => row.to)))
function stop() {
  going?.abort()
  trying.value = false
}
watch(asked, () => {
  stop()
  would.value = {}
})
onScopeDispose(stop)

/** One after the other: each reads weeks. */
async function tryAll() {
  const mine = (going = new AbortController())
  trying.value = true
  for (const row of changing.value) {
    if (!canBeTried(row.to)) continue
    let told: { told: string; why?: string }
    try {
      const tried = await api.tryLimit(
        { limit: row.to, series: null, weeks: WEEKS, until: null },
        mine.signal,
      )
      const on = tried.leftOut ? ` on ${tried.series} series` : ''
      told = { told: `${Math.round(tried.perWeek * WEEKS)}${on}` }
    } catch (e) {
      told = { told: 'not tried', why: inWords(e) }
    }
    if (mine.signal.aborted) return
    would.value = { ...would.value, [row.limit.id]: told }
  }
  trying.value = false
}

const saving = ref(false)
const failure = ref('')
const before = ref<Limit[]>()
const { isKept } = useUnsaved(
  () => changing.value.length > 0 && !before.value,
  'the limits',
  (to) => to.path !== '/limits',
)
async function attempt(act: () => Promise<unknown>) {
  saving.value = true
  failure.value = ''
  try {
    await act()
    emit('saved')
    return true
  } catch (e) {
    failure.value = inWords(e)
    return false
  } finally {
    saving.value = false
  }
}
async function save() {
  stop()
  const were = changing.value.map((row) => row.limit)
  const changes = changing.value.map((row) => ({ id: row.limit.id, limit: row.to }))
  if (await attempt(() => api.changeLimits(changes))) {
    before.value = were
    isKept()
  }
}
async function back() {
  const were = before.value ?? []
  if (await attempt(() => api.changeLimits(were.map((limit) => ({ id: limit.id, limit }))))) {
    emit('close')
  }
}
</script>

<template>
  <section class="many" aria-label="Change several limits">
    <template v-if="before">
      <p role="status">
        {{ many(before.length, 'limit') }} changed. What is set is in force from the next judging
        on.
      </p>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <ElButton :loading="saving" @click="back">Undo</ElButton>
      <ElButton @click="emit('close')">Close</ElButton>
    </template>
    <form v-else novalidate @submit.prevent="save">
      <h2>Change {{ many(chosen.length, 'limit') }}</h2>
      <div class="fields">
        <label v-for="(name, kind) in NAMES" :key="kind"
          >{{ name }}
          <span class="pair">
            <select v-model="change[kind].how" :aria-label="`${name}: what is done with it`">
              <option v-for="(text, how) in HOW" :key="how" :value="how">{{ text }}</option>
            </select>
            <ElInputNumber
              v-if="change[kind].how !== 'stays'"
              v-model="change[kind].number"
              :value-on-clear="null"
              :controls="false"
              :aria-label="`${name}: ${HOW[change[kind].how]}`"
            />
          </span>
        </label>
        <label
          >On or off
          <select v-model="change.state" aria-label="On or off">
            <option value="stays">stays</option>
            <option value="on">on</option>
            <option value="off">off</option>
          </select>
        </label>
        <template v-if="change.state === 'off'">
          <label class="why"
            >Why<ElInput v-model="change.reason" aria-label="Why they are switched off"
          /></label>
          <label
            >Until<input v-model="until" type="datetime-local" aria-label="Until when they are off"
          /></label>
        </template>
      </div>
      <DataTable
        label="What becomes of each"
        :columns="COLUMNS"
        :rows="rows"
        :row-key="(row) => `${row.limit.id}`"
      >
        <template #counter="{ row }"
          >{{ row.title
          }}<span v-if="row.to.on === false" class="soft"> · off: {{ row.to.offReason }}</span
          ><span v-if="!row.differs" class="soft"> · stays as it is</span
          ><span v-if="row.fault" class="warning"> ◣ {{ row.fault }}</span></template
        >
        <template #scope="{ row }">{{ row.scope }}</template>
        <template v-for="kind in ['warning', 'critical'] as const" :key="kind" #[kind]="{ row }">
          {{ words(row, row.limit[kind])
          }}<template v-if="row.limit[kind] !== row.to[kind]">
            → <strong>{{ words(row, row.to[kind]) }}</strong></template
          >
        </template>
        <template #clear="{ row }">
          {{ words(row, row.limit.clear?.number)
          }}<template v-if="row.limit.clear?.number !== row.to.clear.number">
            → <strong>{{ words(row, row.to.clear.number) }}</strong></template
          >
        </template>
        <template #was="{ row }">{{ row.alerts || '–' }}</template>
        <template #would="{ row }"
          ><span v-if="row.differs" :title="would[row.limit.id]?.why">{{
            row.to.on === false
              ? '0'
              : (would[row.limit.id]?.told ?? (canBeTried(row.to) ? '' : '–'))
          }}</span></template
        >
      </DataTable>
      <p v-if="cannot && changing.length" class="warning" role="alert">◣ {{ cannot }}</p>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <p class="acts">
        <ElButton
          type="primary"
          native-type="submit"
          :loading="saving"
          :disabled="!changing.length || !!cannot"
          >Change {{ many(changing.length, 'limit') }}</ElButton
        >
        <ElButton :loading="trying" :disabled="!changing.length || !!cannot" @click="tryAll"
          >Try them on the past four weeks</ElButton
        >
        <ElButton @click="emit('close')">Cancel</ElButton>
      </p>
    </form>
  </section>
</template>

<style scoped>
.many {
  margin-bottom: 16px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
h2 {
  padding-bottom: 8px;
  font-size: 14px;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: end;
  padding-bottom: 8px;
}
label {
  display: grid;
  gap: 2px;
  color: var(--ink-soft);
  font-size: 12px;
}
.fields select {
  height: 32px;
}
.why {
  min-width: 240px;
}
.pair {
  display: flex;
  gap: 6px;
}
.acts {
  padding-top: 10px;
}
</style>
