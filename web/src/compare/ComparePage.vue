<script setup lang="ts">
import '@/look/choices'
import ChoiceLinks from '@/frame/ChoiceLinks.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { ComparedRow } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import { usePickedInstances } from '@/instances/usePickedInstances'
import type { Column } from '@/list/columns'
import CsvButton from '@/list/CsvButton.vue'
import type { CsvColumn } from '@/list/csv'
import DataTable from '@/list/DataTable.vue'
import { MARKS, useMarkers } from '@/markers/useMarkers'
import { useSeries } from '@/series/useSeries'
import CopyText from '@/text/CopyText.vue'
import { momentInWords, number, windowInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import { useOverWindow } from '@/window/useOverWindow'
import ChangeAgainst from './ChangeAgainst.vue'
import SideBySide from './SideBySide.vue'
import WhatChanged from './WhatChanged.vue'
import { isAtOnce, isBeyond, nameOf, sentenceOf, verdictOf, wayOf } from './words'

/** Is it better or worse than then? The window against another one, or what came after a marker against before. */
const NEAR = [
  { key: 'before', words: 'just before' },
  { key: 'day', words: 'the day before' },
  { key: 'week', words: 'the week before' },
]
const SPANS = [
  { key: 'minutes', words: 'the first ten minutes' },
  { key: 'hour', words: 'the first hour' },
  { key: 'day', words: 'the first day' },
  { key: 'week', words: 'the first week' },
]
const here = usePickedInstances()
const instance = computed(() => here.value[0])
const { instances } = useInstances()
const { here: markers } = useMarkers()
const now = useClock()
const vs = useInAddress('vs', 'week')
const span = useInAddress('after', 'day')
const chosen = useInAddress('row')
const id = computed(() => instance.value?.id)
/** What is kept by a name stands with the baselines of any of its series. */
const { of } = useSeries(computed(() => (id.value === undefined ? [] : [id.value])))
const { answer: kept } = useAnswer(
  () => of(id.value ?? 0)[0]?.id,
  (series, signal) => api.baselineWeek(series, Math.round(now.value), signal),
)
const isMarker = computed(() => vs.value.startsWith('marker:'))

const { answer, failure } = useOverWindow(
  () => (id.value === undefined ? undefined : { id: id.value, vs: vs.value, span: span.value }),
  ({ id, vs, span }, from, to, signal) => api.compare(id, { from, to, vs, span }, signal),
  60_000,
)
const told = computed(() => answer.value?.told)
const sentence = computed(() =>
  told.value && instance.value ? sentenceOf(told.value, instance.value.name) : '',
)
const beyond = computed(() => told.value?.rows.filter(isBeyond).length ?? 0)
const picked = computed(
  () => told.value?.rows.find((row) => `${row.series}` === chosen.value) ?? told.value?.rows[0],
)
const columns = computed<Column<ComparedRow>[]>(() => {
  const atOnce = told.value && isAtOnce(told.value)
  return [
    { key: 'what', title: 'Counter' },
    { key: 'before', title: atOnce ? 'There' : 'Before', n: true },
    { key: 'after', title: atOnce ? 'Here' : 'After', n: true },
    { key: 'change', title: 'Change, its usual change behind' },
  ]
})
const CSV: CsvColumn<ComparedRow>[] = [
  ['counter', (r) => r.counter],
  ['labels', (r) => Object.values(r.labels).join(' ')],
  ['unit', (r) => r.unit],
  ['before', (r) => r.before],
  ['after', (r) => r.after],
  ['change', (r) => r.shift],
  ['usual change', (r) => r.usual],
  ['verdict', (r) => verdictOf(r)],
]
const others = computed(() =>
  instances.value.filter((i) => i.id !== id.value && i.kind === instance.value?.kind),
)
const hasGroup = computed(() =>
  others.value.some((i) => i.group !== '' && i.group === instance.value?.group),
)
</script>

<template>
  <section aria-label="Compare">
    <p v-if="!instance" class="soft empty">Pick an instance on the left.</p>
    <template v-else>
      <div class="against">
        <span class="soft">against</span>
        <ChoiceLinks v-model="vs" :choices="NEAR" />
        <ElSelect
          :model-value="isMarker ? vs : ''"
          size="small"
          aria-label="since a marker"
          placeholder="since a marker"
          style="width: 190px"
          @change="(to: string) => (vs = to)"
        >
          <ElOption
            v-for="m in markers"
            :key="m.id"
            :value="`marker:${m.id}`"
            :label="`${MARKS[m.kind]} ${m.title}`"
          />
        </ElSelect>
        <ElSelect
          :model-value="isMarker || NEAR.some((one) => one.key === vs) ? '' : vs"
          size="small"
          aria-label="another one"
          placeholder="another instance"
          style="width: 170px"
          @change="(to: string) => (vs = to)"
        >
          <ElOption
            v-if="hasGroup"
            value="group"
            :label="`the middle of the others in ${instance?.group}`"
          />
          <ElOption
            v-for="f in kept?.frozen ?? []"
            :key="`f${f.id}`"
            :value="`frozen:${f.id}`"
            :label="`“${f.name}”`"
          />
          <ElOption v-for="i in others" :key="i.id" :value="`instance:${i.id}`" :label="i.name" />
        </ElSelect>
        <span v-if="isMarker" class="spans">
          <ChoiceLinks v-model="span" :choices="SPANS" />
        </span>
        <CsvButton
          v-if="told?.rows.length"
          :name="`compared-${instance.name}`"
          :columns="CSV"
          :rows="told.rows"
        />
      </div>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <p v-if="!told && !failure" class="soft empty">Comparing every counter …</p>
      <template v-else-if="told">
        <article class="sentence" aria-label="In a sentence">
          <CopyText :text="sentence" what="sentence" plain />
          <p class="soft">
            {{ windowInWords(told.after.from, told.after.to) }} against
            {{ windowInWords(told.before.from, told.before.to) }}
            <template v-if="isMarker && told.after.to > now - 60_000"> · so far</template>
          </p>
        </article>
        <div class="two">
          <div>
            <DataTable
              v-if="told.rows.length"
              label="What changed"
              :columns="columns"
              :rows="told.rows"
              :row-key="(row) => `${row.series}`"
              :about="[id, vs, span, answer?.asked]"
              :on="(row) => row.series === picked?.series"
            >
              <template #what="{ row }">
                <button
                  type="button"
                  class="link what"
                  :aria-pressed="row.series === picked?.series"
                  @click="chosen = `${row.series}`"
                >
                  {{ nameOf(row) }}
                </button>
              </template>
              <template #before="{ row }">{{ number(row.before, row.unit) }}</template>
              <template #after="{ row }">{{ number(row.after, row.unit) }}</template>
              <template #change="{ row }">
                <ChangeAgainst :row="row" />
                <span class="soft verdict" :class="wayOf(row)">{{ verdictOf(row) }}</span>
              </template>
            </DataTable>
            <p class="soft rest">
              {{ told.same }} {{ isAtOnce(told) ? 'alike' : 'as before'
              }}<template v-if="told.rows.length > beyond"
                >, {{ told.rows.length - beyond }} within their usual change</template
              ><template v-if="told.notComparable"
                >, {{ told.notComparable }} not comparable: no value in one of the two</template
              >
            </p>
          </div>
          <div class="beside">
            <SideBySide
              v-if="picked"
              :row="picked"
              :before="told.before"
              :after="told.after"
              :against="told.against"
            />
            <WhatChanged :told="told" />
          </div>
        </div>
        <p class="unseen" aria-live="polite">compared {{ momentInWords(told.after.to, now) }}</p>
      </template>
    </template>
  </section>
</template>

<style scoped>
.against {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 2px 0 10px;
}
.spans {
  display: flex;
  gap: 12px;
}
.sentence {
  padding: 10px 12px;
  margin-bottom: 10px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 2fr);
  gap: 12px;
  align-items: start;
}
.what {
  display: block;
  max-width: 260px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.verdict {
  display: block;
  font-size: 12px;
}
.rest {
  padding-top: 8px;
  font-size: 12.5px;
}
.empty {
  padding: 24px 0;
}
@media (width < 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
