<script setup lang="ts">
import { computed } from 'vue'
import type { TogetherCell, TogetherColumn } from '@/api/types'
import { severityOf } from '@/limits/limits'
import { labelsOf } from '@/series/labels'
import { limitInWords, normalInWords } from '@/series/told'
import ToldValue from '@/series/ToldValue.vue'
import { range } from '@/text/format'

/** What a counter is on one instance, with what is normal for it there; its limit on hover. */
const props = defineProps<{
  cell: TogetherCell
  column: TogetherColumn
  /** Whether its label stands elsewhere. */
  bare: boolean
}>()
const about = computed(() => {
  const { cell, column } = props
  return [
    labelsOf(cell),
    normalInWords({ low: cell.normalLow, high: cell.normalHigh }, column.unit),
    limitInWords({ limits: cell.limits, unit: column.unit, why: cell.why }),
    column.meaning,
  ]
    .filter(Boolean)
    .join(' · ')
})
const normal = computed(() =>
  props.cell.normalLow === null || props.cell.normalHigh === null
    ? 'no normal yet'
    : range(props.cell.normalLow, props.cell.normalHigh, props.column.unit),
)
</script>

<template>
  <span v-if="!cell.series" class="soft" :title="cell.why">–</span>
  <span v-else-if="cell.value === null" class="silent" :title="column.meaning"
    >◌ {{ cell.why }}</span
  >
  <span v-else :data-series="cell.series" :title="about"
    ><ToldValue
      :value="cell.value"
      :unit="column.unit"
      :severity="severityOf(cell, cell.value)"
      :distance="cell.distance"
    />
    <small class="soft normal">{{ normal }}</small><small
      v-if="!bare && labelsOf(cell)"
      class="soft normal label"
      >{{ labelsOf(cell) }}</small
    ></span
  >
</template>

<style scoped>
.normal {
  display: block;
  line-height: 1.2;
  white-space: nowrap;
}
.label {
  max-width: 110px;
  margin-left: auto;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
