<script setup lang="ts">
import '@/look/choices'
import ChoiceLinks from '@/frame/ChoiceLinks.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { api } from '@/api/client'
import type { StatementRow } from '@/api/types'
import { usePickedInstances } from '@/instances/usePickedInstances'
import CsvButton from '@/list/CsvButton.vue'
import type { Column } from '@/list/columns'
import type { CsvColumn } from '@/list/csv'
import DataTable from '@/list/DataTable.vue'
import { day, many, number, plain, seconds, span, windowInWords } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { useOverWindow } from '@/window/useOverWindow'
import ChangeBars from './ChangeBars.vue'
import SingleExecutions from './SingleExecutions.vue'
import StatementOne from './StatementOne.vue'
import { ORDERS, ROWS_PER_CALL, VERSUS } from './words'

/** Which statements take the time, and what changed: more often, or slower. */
const KINDS = [
  { key: 'statement', words: 'statement', title: 'Statement' },
  { key: 'user', words: 'user', title: 'User' },
  { key: 'database', words: 'database', title: 'Database' },
]
const here = usePickedInstances()
const engine = computed(() => here.value.find((i) => i.kind === 'postgresql'))
const order = useInAddress('order', 'time')
const by = useInAddress('per', 'statement')
const versus = useInAddress('vs', 'week')
const chosen = useInAddress('statement')

const { answer, failure } = useOverWindow(
  () =>
    engine.value && {
      id: engine.value.id,
      order: order.value,
      by: by.value,
      vs: versus.value,
    },
  ({ id, order, by, vs }, from, to, signal) => {
    const before = VERSUS.find((one) => one.key === vs)?.ms(to - from)
    return api.statements(id, { order, by, from, to, vs: before && from - before }, signal)
  },
  20_000,
)
const told = computed(() => answer.value?.told)
const extra = computed(() => ORDERS.find((one) => one.key === order.value)?.column ?? ROWS_PER_CALL)
const columns = computed<Column<StatementRow>[]>(() => [
  { key: 'name', title: KINDS.find((one) => one.key === by.value)?.title ?? '' },
  { key: 'share', title: 'Share of all time' },
  { key: 'calls', title: 'Calls', n: true },
  { key: 'mean', title: 'Mean', n: true },
  { key: 'then', title: 'Mean then', n: true },
  { key: 'extra', title: extra.value.title, n: true },
  { key: 'change', title: 'ms/s' },
])
const CSV: CsvColumn<StatementRow>[] = [
  ['fingerprint', (r) => r.fingerprint],
  ['name', (r) => r.name],
  ['sent by clients', (r) => (r.top ? 'yes' : 'no')],
  ['users', (r) => r.users.join(' ')],
  ['databases', (r) => r.databases.join(' ')],
  ['share of all time', (r) => (r.top ? r.share : null)],
  ['calls', (r) => r.calls],
  ['calls per second', (r) => r.callsPerSecond],
  ['seconds per second', (r) => r.timePerSecond],
  ['mean seconds', (r) => r.mean],
  ['rows per second', (r) => r.rowsPerSecond],
  ['blocks read per second', (r) => r.readsPerSecond],
  ['blocks per call', (r) => r.blocksPerCall],
  ['temporary blocks per second', (r) => r.temporaryPerSecond],
  ['change', (r) => r.change.kind],
  ['more often seconds per second', (r) => r.change.moreOften],
  ['slower seconds per second', (r) => r.change.slower],
  ['mean seconds then', (r) => r.change.meanBefore],
]
const keyOf = (row: StatementRow) => `${row.fingerprint || row.name} ${row.top}`
const largest = computed(() =>
  Math.max(
    ...(told.value?.rows ?? []).map(({ change: c }) =>
      c.kind === 'both' ? Math.max(Math.abs(c.moreOften), Math.abs(c.slower)) : Math.abs(c.total),
    ),
    0,
  ),
)
const percent = (share: number) => {
  const whole = share * 100
  return whole > 0 && whole < 0.1 ? 'under 0.1 %' : `${plain(Math.round(whole * 10) / 10, '')} %`
}
const compared = computed(() => {
  const v = told.value?.versus
  if (!v || !v.to) return ''
  return v.coveredMs
    ? `against ${windowInWords(v.from, v.to)}`
    : 'nothing was counted then to compare with'
})
const active = computed(() => {
  const sum = told.value?.active[0]
  if (!sum) return ''
  const signed = (value: number) => `${value < 0 ? '−' : '+'} ${plain(Math.abs(value), '')}`
  // who samples sees a session or not, and less often than there are some
  const left = sum.notCovered < 0 ? 'by chance of sampling' : 'not covered'
  const running = sum.running < 0 ? 'begun before and booked in it' : 'still running at its end'
  return (
    `sampled ${plain(sum.sampled, '')} active = ${plain(sum.booked, '')} booked by finished statements ` +
    `${signed(sum.running)} ${running} ${signed(sum.notCovered)} ${left}`
  )
})
/** What is new since the window that is compared with says so; else what is young. */
const WEEK = 7 * 86_400_000
const young = (row: StatementRow) =>
  row.firstSeen > 0 && answer.value && answer.value.to - row.firstSeen < WEEK
    ? `first seen ${day(row.firstSeen)}`
    : ''
const open = computed(() => {
  const row = told.value?.rows.find((one) => one.fingerprint && one.fingerprint === chosen.value)
  return row && keyOf(row)
})
function choose(row: StatementRow) {
  chosen.value = chosen.value === row.fingerprint ? '' : row.fingerprint
}
</script>

<template>
  <section aria-label="Statements">
    <p v-if="!engine" class="soft empty">Pick a PostgreSQL engine on the left.</p>
    <template v-else>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <div class="by">
        <span class="soft">by</span>
        <ChoiceLinks v-model="order" :choices="ORDERS" />
        <label class="kind">
          <span class="soft">per</span>
          <ElSelect v-model="by" aria-label="per" size="small" style="width: 110px">
            <ElOption v-for="one in KINDS" :key="one.key" :value="one.key" :label="one.words" />
          </ElSelect>
        </label>
        <label class="versus">
          <span class="soft">against</span>
          <ElSelect v-model="versus" aria-label="against" size="small" style="width: 210px">
            <ElOption v-for="one in VERSUS" :key="one.key" :value="one.key" :label="one.words" />
            <ElOption value="nothing" label="nothing" />
          </ElSelect>
        </label>
      </div>
      <p v-if="!told && !failure" class="soft empty">Adding up the statements …</p>
      <p v-else-if="told && !told.coveredMs" class="soft empty">Nothing to list: {{ told.why }}.</p>
      <template v-else-if="told && answer">
        <p class="sum">
          <strong>{{ number(told.callsPerSecond, '/s') }}</strong> calls ·
          <strong>{{ seconds(told.timePerSecond) }}</strong> of statement time a second ·
          <span class="soft">
            {{ span(told.coveredMs) }} of {{ span(answer.to - answer.from) }} counted<template
              v-if="compared"
            >
              · {{ compared }}</template
            >
          </span>
        </p>
        <p v-if="told.evictions" class="warning">
          ◣ The engine dropped rare statements {{ many(told.evictions, 'time') }} in this window:
          what is told is at least that. Raise pg_stat_statements.max.
        </p>
        <DataTable
          label="Statements"
          :columns="columns"
          :rows="told.rows"
          :row-key="keyOf"
          :about="[engine.id, order, by, versus, answer.asked]"
          :open="open"
        >
          <template #head-change>
            <span class="keys" aria-hidden="true"
              >Change: <i class="often"></i> more often <i></i> slower,</span
            >
          </template>
          <template #name="{ row }">
            <span class="name">
              <button
                v-if="row.fingerprint"
                type="button"
                class="link code"
                :aria-expanded="row.fingerprint === chosen"
                :title="row.name"
                @click="choose(row)"
              >
                {{ row.name || `text of ${row.fingerprint} is not kept any more` }}
              </button>
              <template v-else>{{ row.name }}</template>
              <span v-if="!row.top" class="soft note">inside of other statements</span>
              <span v-else-if="young(row)" class="soft note">{{ young(row) }}</span>
            </span>
          </template>
          <template #share="{ row }">
            <span v-if="row.top" class="share">
              <i :style="{ width: `${row.share * 90}px` }"></i>{{ percent(row.share) }}
            </span>
            <span v-else class="soft">in theirs</span>
          </template>
          <template #calls="{ row }">{{ number(row.callsPerSecond, '/s') }}</template>
          <template #mean="{ row }">{{ row.mean === null ? '' : seconds(row.mean) }}</template>
          <template #then="{ row }">
            <span class="soft">{{
              row.change.meanBefore === null ? '' : seconds(row.change.meanBefore)
            }}</span>
          </template>
          <template #extra="{ row }">{{ extra.of(row) }}</template>
          <template #change="{ row }"><ChangeBars :row="row" :most="largest" /></template>
          <template #more="{ row }">
            <StatementOne :instance="engine.id" :fingerprint="row.fingerprint" />
          </template>
          <template v-if="told.others || told.unnamedShare" #foot>
            <tfoot>
              <tr v-if="told.others" class="soft">
                <th scope="row">{{ many(told.others, 'other') }} together</th>
                <td :colspan="columns.length - 1">{{ percent(told.othersShare) }}</td>
              </tr>
              <tr v-if="told.unnamedShare" class="soft">
                <th scope="row">those whose text is not known</th>
                <td :colspan="columns.length - 1">{{ percent(told.unnamedShare) }}</td>
              </tr>
            </tfoot>
          </template>
        </DataTable>
        <p class="soft active">
          {{ active }}
          <CsvButton :name="`statements-${engine.name}`" :columns="CSV" :rows="told.rows" />
        </p>
        <p class="soft active">
          Failed and cancelled executions are in no count of the engine; a mean includes waiting for
          locks and slow clients.
        </p>
      </template>
      <SingleExecutions :instance="engine.id" @statement="(print) => (chosen = print)" />
    </template>
  </section>
</template>

<style scoped>
.by {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  padding: 2px 0 8px;
}
.kind,
.versus {
  display: flex;
  gap: 6px;
  align-items: center;
}
.kind {
  margin-left: auto;
}
.sum {
  padding-bottom: 8px;
}
.empty {
  padding: 24px 0;
}
.name {
  display: flex;
  gap: 8px;
  align-items: baseline;
  max-width: 320px;
}
.code {
  flex: 0 1 auto;
  overflow: hidden;
  font-family: var(--code);
  font-size: 12.5px;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.note {
  flex: none;
  font-size: 12px;
  white-space: nowrap;
}
.share {
  display: flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
.share i {
  display: block;
  height: 8px;
  border: 1px solid var(--fill);
  background: var(--line);
}
.keys {
  margin-right: 4px;
  font-weight: 400;
  white-space: nowrap;
}
.keys i {
  display: inline-block;
  width: 8px;
  height: 6px;
  background: var(--ink);
}
.keys .often {
  background: var(--line-1);
}
.active {
  padding-top: 8px;
  font-size: 12.5px;
}
</style>
