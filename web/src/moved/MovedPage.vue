<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import type { MovedRow } from '@/api/types'
import WhoseSelect from '@/instances/WhoseSelect.vue'
import type { Column } from '@/list/columns'
import CsvButton from '@/list/CsvButton.vue'
import type { CsvColumn } from '@/list/csv'
import DataTable from '@/list/DataTable.vue'
import { MARKS, useMarkers } from '@/markers/useMarkers'
import { labelsOf } from '@/series/labels'
import { departure, normalInWords } from '@/series/told'
import { onWholeBench } from '@/now/arrangement'
import { clock, momentInWords, number, span, windowInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'
import { useOverWindow } from '@/window/useOverWindow'
import { useWindow } from '@/window/useWindow'

/**
 * What moved: every series of the estate that was outside its normal for five minutes in the window, the farthest or the
 * first of them on top; while the window ends now, what is outside now.
 */
const DAY = 86_400_000
const AROUND = 0.5
const window = useWindow()
const now = useClock()
const { go } = useLink()
const { markers } = useMarkers()
const of = useInAddress('whose')
const order = useInAddress('order', 'distance')
const live = computed(() => window.live.value)
const tooLong = computed(() => !live.value && window.width.value > DAY)

const { answer, failure } = useOverWindow(
  () => (tooLong.value ? undefined : { of: of.value, order: order.value, live: live.value }),
  ({ of, order, live }, from, to, signal) =>
    api.moved({ of, order, ...(live ? {} : { from, to }), most: 500 }, signal),
  10_000,
)
const told = computed(() => answer.value?.told)
const first = computed(() =>
  Math.min(
    ...(told.value?.rows ?? []).filter((row) => !row.before).map((row) => row.since),
    Infinity,
  ),
)
const here = computed(() => {
  const [from, to] = [answer.value?.from ?? 0, answer.value?.to ?? 0]
  return markers.value.filter((m) => (m.to ?? m.from) >= from && m.from <= to)
})
const COLUMNS: Column<MovedRow>[] = [
  { key: 'what', title: 'Counter' },
  { key: 'instance', title: 'Instance', by: (row) => row.instanceName },
  { key: 'distance', title: 'Outside', n: true, by: (row) => Math.abs(row.distance) },
  { key: 'since', title: 'Left', by: (row) => row.since, first: 'ascending' },
  { key: 'minutes', title: 'For', n: true, by: (row) => row.minutes },
  { key: 'value', title: 'Was', n: true },
  { key: 'normal', title: 'Normal then' },
]
const CSV: CsvColumn<MovedRow>[] = [
  ['instance', (r) => r.instanceName],
  ['group', (r) => r.group],
  ['site', (r) => r.site],
  ['counter', (r) => r.counter],
  ['labels', (r) => labelsOf(r)],
  ['spreads outside', (r) => r.distance],
  ['left at', (r) => new Date(r.since).toISOString()],
  ['minutes outside', (r) => r.minutes],
  ['value', (r) => r.value],
  ['normal from', (r) => r.normalLow],
  ['normal to', (r) => r.normalHigh],
]
const was = computed(() => (live.value ? 'is' : 'was'))
function open(row: MovedRow) {
  const [from, to] = [answer.value?.from ?? 0, answer.value?.to ?? 0]
  const wider = AROUND * (to - from)
  go('/now', {
    pick: row.instance,
    ...onWholeBench(row),
    ...(live.value
      ? {}
      : {
          w: undefined,
          from: new Date(from - wider).toISOString(),
          to: new Date(Math.min(now.value, to + wider)).toISOString(),
        }),
  })
}
const left = (row: MovedRow) =>
  (answer.value?.to ?? 0) - (answer.value?.from ?? 0) > DAY / 2 || live.value
    ? momentInWords(row.since, now.value)
    : clock(row.since)
</script>

<template>
  <section aria-label="What moved">
    <div class="head">
      <h2>
        {{
          live || !answer ? 'Most outside its normal now' : windowInWords(answer.from, answer.to)
        }}
      </h2>
      <WhoseSelect v-model="of" />
      <span class="order">
        <button
          type="button"
          class="link"
          :aria-pressed="order === 'distance'"
          @click="order = 'distance'"
        >
          farthest first
        </button>
        <button
          type="button"
          class="link"
          :aria-pressed="order === 'first'"
          @click="order = 'first'"
        >
          who left first
        </button>
      </span>
      <CsvButton v-if="told?.rows.length" name="moved" :columns="CSV" :rows="told.rows" />
    </div>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="tooLong" class="soft empty">
      Of more than a day everything has moved. Make the window shorter: drag on a chart or on the
      rail, or press <span class="key">}</span>.
    </p>
    <p v-else-if="!told && !failure" class="soft empty">
      Holding every series against its normal …
    </p>
    <template v-else-if="told && answer">
      <p class="sum">
        <strong>{{ told.moved }}</strong> of {{ told.looked }} series
        {{ told.moved === 1 ? was : live ? 'are' : 'were' }} four spreads or more outside
        {{ told.moved === 1 ? 'its' : 'their' }} normal for five minutes; by chance alone none would
        be.
      </p>
      <ul v-if="here.length" class="markers" aria-label="Markers in it">
        <li v-for="m in here" :key="m.id" class="soft">
          <span aria-hidden="true">{{ MARKS[m.kind] }}</span> {{ m.title }},
          {{ momentInWords(m.from, now) }}
        </li>
      </ul>
      <p v-if="!told.rows.length" class="soft empty">
        {{
          told.looked
            ? 'Nothing left its normal for so long.'
            : 'Nothing has a normal to be held against yet: it takes an hour of readings.'
        }}
      </p>
      <DataTable
        v-else
        label="What moved"
        :columns="COLUMNS"
        :rows="told.rows"
        :row-key="(row) => `${row.series}`"
        :about="[of, order, answer.asked]"
      >
        <template #what="{ row }">
          <button type="button" class="link what" @click="open(row)">
            {{ row.title }}<span v-if="labelsOf(row)" class="soft"> · {{ labelsOf(row) }}</span>
          </button>
        </template>
        <template #instance="{ row }">{{ row.instanceName }}</template>
        <template #distance="{ row }"
          ><strong>{{ departure(row.distance) }}</strong></template
        >
        <template #since="{ row }"
          >{{ row.before ? 'before it' : left(row)
          }}<strong v-if="!live && row.since === first"> the first</strong></template
        >
        <template #minutes="{ row }">{{ span(row.minutes * 60_000) }}</template>
        <template #value="{ row }">{{
          row.value === null ? '◌' : number(row.value, row.unit)
        }}</template>
        <template #normal="{ row }"
          ><span class="soft">{{
            normalInWords({ low: row.normalLow, high: row.normalHigh }, row.unit)
          }}</span></template
        >
      </DataTable>
      <p v-if="told.moved > told.rows.length" class="soft">
        The first {{ told.rows.length }} are listed.
      </p>
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
h2 {
  font-size: 16px;
}
.order {
  display: flex;
  gap: 14px;
}
.order [aria-pressed='true'] {
  font-weight: 600;
}
.markers {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  padding: 4px 0 8px;
  list-style: none;
}
.what {
  display: block;
  max-width: 360px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.empty {
  padding: 24px 0;
}
</style>
