<script setup lang="ts">
import '@/look/choices'
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { StripRow, TogetherCell, TogetherColumn, TogetherRow } from '@/api/types'
import WhoseSelect from '@/instances/WhoseSelect.vue'
import type { Column } from '@/list/columns'
import CsvButton from '@/list/CsvButton.vue'
import type { CsvColumn } from '@/list/csv'
import DataTable from '@/list/DataTable.vue'
import { onWholeBench } from '@/now/arrangement'
import { labelsOf } from '@/series/labels'
import WhenShown from '@/series/WhenShown.vue'
import { many, number } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'
import { useOverWindow } from '@/window/useOverWindow'
import { useClock } from '@/window/useClock'
import { useShownMoment } from '@/window/useShownMoment'
import CellOf from './CellOf.vue'
import { figuresOf } from './figures'
import StripOf from './StripOf.vue'

/**
 * The instances of a group, of a site, or all: counters across them in one table, and one counter of each through
 * time, ink by how far it was from its normal.
 */
const MOST = 8
const STEPS = 200
const LIVE_MS = 10_000
const { go, link } = useLink()
const now = useClock()
const { rests } = useShownMoment()
const of = useInAddress('whose')
const counters = useInAddress('counters')
const through = useInAddress('strip')

const { answer: table, failure } = useAnswer(
  () => ({ of: of.value, counters: counters.value }),
  async (asked, signal) => {
    const at = rests.value === undefined ? undefined : Math.round(rests.value)
    return { at, told: await api.together({ ...asked, at }, signal) }
  },
  {
    instead: () => `${rests.value ?? ''}`,
    follows: () => rests.value === undefined && Math.floor(now.value / LIVE_MS),
  },
)
const columns = computed(() => table.value?.told.columns ?? [])
const chosen = computed({
  get: () => columns.value.map((column) => column.counter),
  set: (all: string[]) => (counters.value = all.slice(0, MOST).join(',')),
})
const drawn = computed(
  () => columns.value.find((c) => c.counter === through.value) ?? columns.value[0],
)
const { answer: strip, failure: noStrip } = useOverWindow(
  () => drawn.value && { of: of.value, counter: drawn.value.counter },
  (asked, from, to, signal) => api.strip({ ...asked, from, to, steps: STEPS }, signal),
  LIVE_MS,
)

const cellOf = (row: TogetherRow, column: TogetherColumn) =>
  row.cells[columns.value.indexOf(column)] as TogetherCell
const list = computed<Column<TogetherRow>[]>(() => [
  { key: 'name', title: 'Instance', by: (row) => row.name },
  ...columns.value.map((column) => ({
    key: column.counter,
    title: [column.title, labelOf(column)].filter(Boolean).join(' · '),
    n: true,
    by: (row: TogetherRow) => cellOf(row, column).value,
    first: column.worse === 'down' ? ('ascending' as const) : undefined,
  })),
])
const csv = computed<CsvColumn<TogetherRow>[]>(() => [
  ['instance', (row) => row.name],
  ['group', (row) => row.group],
  ['site', (row) => row.site],
  ...columns.value.flatMap((column): CsvColumn<TogetherRow>[] => [
    [column.title, (row) => cellOf(row, column).value],
    [`${column.title}: normal from`, (row) => cellOf(row, column).normalLow],
    [`${column.title}: normal to`, (row) => cellOf(row, column).normalHigh],
  ]),
])
/** The label that all of a column are of: it need not stand in each cell. */
const labelOf = (column: TogetherColumn) => {
  const labels = new Set((table.value?.told.rows ?? []).map((row) => labelsOf(cellOf(row, column))))
  labels.delete('')
  return labels.size === 1 ? ([...labels][0] ?? '') : ''
}
const sums = computed(() => figuresOf(table.value?.told.sums ?? [], columns.value))
const open = (row: StripRow) =>
  drawn.value &&
  go('/now', { pick: row.instance, ...onWholeBench({ counter: drawn.value.counter, labels: {} }) })
</script>

<template>
  <section aria-label="Side by side">
    <div class="head">
      <WhoseSelect v-model="of" />
      <label
        ><span class="soft">counters</span>
        <ElSelect
          v-model="chosen"
          multiple
          filterable
          collapse-tags
          :multiple-limit="MOST"
          aria-label="counters"
          size="small"
          style="width: 260px"
        >
          <ElOption
            v-for="c in table?.told.choices ?? []"
            :key="c.counter"
            :value="c.counter"
            :label="c.title"
          />
        </ElSelect>
      </label>
      <CsvButton
        v-if="table?.told.rows.length"
        name="side-by-side"
        :columns="csv"
        :rows="table.told.rows"
      />
    </div>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="!table && !failure" class="soft empty">Fetching the counters …</p>
    <p v-else-if="table && !table.told.rows.length" class="soft empty">
      Nothing is there. Choose another group or site above.
    </p>
    <template v-else-if="table">
      <h2 v-if="drawn" class="of">
        {{ drawn.title }}
        <span class="soft"
          >of {{ many(table.told.rows.length, 'instance') }}, and their normal</span
        >
      </h2>
      <p v-if="noStrip" class="warning" role="alert">◣ {{ noStrip }}</p>
      <StripOf
        v-if="strip && strip.told.counter === drawn?.counter"
        :strip="strip.told"
        :from="strip.from"
        :to="strip.to"
        @open="open"
      />
      <WhenShown :when="table.at" />
      <DataTable
        label="Side by side"
        :columns="list"
        :rows="table.told.rows"
        :row-key="(row) => `${row.instance}`"
        :about="[of, counters]"
      >
        <template v-for="column in columns" :key="column.counter" #[`head-${column.counter}`]>
          <button
            type="button"
            class="link through"
            :aria-pressed="drawn === column"
            :aria-label="`${column.title} through time`"
            :title="`${column.title} through time`"
            @click="through = column.counter"
          >
            ∿
          </button>
        </template>
        <template #name="{ row }"
          ><RouterLink class="link" :to="link('/now', { pick: row.instance })">{{
            row.name
          }}</RouterLink></template
        >
        <template v-for="column in columns" :key="column.counter" #[column.counter]="{ row }">
          <CellOf :cell="cellOf(row, column)" :column="column" :bare="labelOf(column) !== ''" />
        </template>
        <template #foot>
          <tbody v-for="sum in sums" :key="sum.site" class="sums">
            <tr v-for="(figure, i) in sum.rows" :key="figure.name">
              <th scope="row">
                <span class="site">{{ i ? '' : `${sum.site || 'all'} ${sum.instances}` }}</span>
                {{ figure.name }}
              </th>
              <td v-for="(value, c) in figure.values" :key="c" class="n">
                {{
                  value === null
                    ? '–'
                    : figure.times
                      ? `${value.toFixed(1)} ×`
                      : number(value, columns[c]?.unit ?? '')
                }}
              </td>
            </tr>
          </tbody>
        </template>
      </DataTable>
      <p class="soft">Small: what is normal for it at this quarter-hour.</p>
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: baseline;
  padding-bottom: 8px;
}
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
h2 {
  font-size: 14px;
}
h2 .soft {
  font-weight: 400;
}
.through {
  margin-right: 4px;
}
.through[aria-pressed='true'] {
  font-weight: 700;
}
/* eight columns and their names */
section :deep(.rows thead th) {
  max-width: 108px;
  padding-left: 14px;
  vertical-align: bottom;
  white-space: normal;
}
section :deep(thead .link) {
  text-align: inherit;
  white-space: normal;
}
section :deep(.rows tbody :is(th, td)) {
  padding-inline: 7px;
}
.sums tr:first-child > * {
  border-top: 2px solid var(--line);
}
.sums th {
  font-weight: 400;
  text-align: right;
}
.site {
  float: left;
  font-weight: 600;
}
.empty {
  padding: 24px 0;
}
</style>
