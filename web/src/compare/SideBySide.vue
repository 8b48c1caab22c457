<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Compared, ComparedRow, Points } from '@/api/types'
import BandChart from '@/chart/BandChart.vue'
import { useZoom } from '@/window/useZoom'
import { windowInWords } from '@/text/format'
import { nameOf } from './words'

/** One series in both stretches, or beside the same one of another instance: one above the other in one scale. */
const MOST = 240
const props = defineProps<{
  row: ComparedRow
  before: Compared['before']
  after: Compared['after']
  /** What it is held against. */
  against: string
}>()
const { zoom, undo } = useZoom()
const { answer, failure } = useAnswer(
  () => ({
    series: props.row.series,
    beside: props.row.beside,
    before: props.before,
    after: props.after,
  }),
  async ({ series, beside, before, after }, signal) => {
    const ask = async (of: number, { from, to }: Compared['before']) =>
      (await api.points([of], from, to, MOST, signal))[0]
    const [then, since] = await Promise.all([
      beside === null ? undefined : ask(beside, before),
      ask(series, after),
    ])
    return { then, since }
  },
  {
    instead: () =>
      `${props.row.series} ${props.row.beside} ${props.before.from} ${props.after.from}`,
  },
)
const charts = computed(() => {
  const { then, since } = answer.value ?? {}
  const chart = (
    title: string,
    points: Points | undefined,
    other: Points | undefined,
    at: Compared['before'],
  ) => ({
    title,
    points,
    beside: other ? [other] : [],
    ...at,
  })
  const { row, before, after } = props
  if (row.beside === row.series) {
    return [chart('Before', then, since, before), chart('After', since, then, after)]
  }
  const here = chart('Here', since, then, after)
  // of the middle of several, and of what is kept as normal, there is no series to draw
  return row.beside === null ? [here] : [chart(props.against, then, since, before), here]
})
const about = computed(() =>
  props.row.beside === props.row.series ? 'before and after' : `against ${props.against}`,
)
</script>

<template>
  <article :aria-label="`${nameOf(row)}, ${about}`">
    <h2>{{ nameOf(row) }}</h2>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <template v-for="chart in charts" :key="chart.title">
      <p class="soft">{{ chart.title }}: {{ windowInWords(chart.from, chart.to) }}</p>
      <BandChart
        class="chart"
        :points="chart.points"
        :beside="chart.beside"
        :from="chart.from"
        :to="chart.to"
        :unit="row.unit"
        :good-end="0"
        :title="`${chart.title}, ${nameOf(row)}`"
        @zoom="zoom"
        @back="undo"
      />
    </template>
  </article>
</template>

<style scoped>
article {
  padding: 10px 12px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
h2 {
  overflow: hidden;
  font-size: 14px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
p {
  font-size: 12.5px;
}
.chart {
  height: 110px;
  margin-left: -12px;
}
</style>
