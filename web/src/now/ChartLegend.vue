<script setup lang="ts">
import { computed } from 'vue'
import { shareOfNormal, TIMES, type ChartLine } from '@/chart/lines'
import { useMoment } from '@/chart/useMoment'
import { number } from '@/text/format'
import { toldAt } from './toldAt'

/** The lines of one chart by name, each with its value now or at the moment under the pointer. */
const props = defineProps<{
  lines: ChartLine[]
  leftOut: number
  live: boolean
  to: number
  share?: boolean
}>()
const moment = useMoment()
const rows = computed(() =>
  props.lines.map(({ name, colour, series, points }) => {
    const told = toldAt(series, points, moment.value, props.live, props.to)
    if (!props.share) return { name, colour, value: told.value, unit: series.unit, why: '' }
    const shared = points && shareOfNormal(points)
    const at = moment.value ?? points?.at.at(-1)
    const value = shared && at !== undefined ? toldAt(series, shared, at, false, at).value : null
    const none =
      told.value === null ? '' : points?.normal.at(-1) === 0 ? 'normal is 0' : 'no normal'
    return { name, colour, value, unit: TIMES, why: none }
  }),
)
</script>

<template>
  <ul class="legend">
    <li v-for="row in rows" :key="row.name">
      <span class="dot" :style="{ background: `var(--line-${row.colour})` }" aria-hidden="true" />
      {{ row.name }}
      <strong v-if="row.value !== null">{{ number(row.value, row.unit) }}</strong>
      <span v-else class="soft">◌ {{ row.why }}</span>
    </li>
    <li v-if="leftOut" class="soft">{{ leftOut }} more are not drawn: eight lines at most</li>
  </ul>
</template>

<style scoped>
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  font-size: 12px;
  list-style: none;
}
.dot {
  display: inline-block;
  width: 8px;
  height: 8px;
  border-radius: 50%;
}
</style>
