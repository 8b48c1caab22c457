<script setup lang="ts">
import { computed } from 'vue'
import type { Series } from '@/api/types'
import { severityOf } from '@/limits/limits'
import { number } from '@/text/format'
import { allInWords } from './told'
import ToldValue from './ToldValue.vue'

/** A value in a table, with its normal and limit on hover, or the reason for having none. */
const props = defineProps<{ series: Series | undefined }>()
/** Its mean and greatest over the window, where they are asked for. */
const over = computed(() => {
  const { over: of, unit = '' } = props.series ?? {}
  if (!of || of.mean === null || of.greatest === null) return ''
  return `mean ${number(of.mean, unit)}, most ${number(of.greatest, unit)}`
})
const severity = computed(() => props.series && severityOf(props.series, props.series.value))
</script>

<template>
  <span v-if="!series" class="soft" title="This make does not tell it.">–</span>
  <span
    v-else-if="series.value === null"
    class="silent"
    :data-series="series.id"
    :title="series.meaning"
    >◌ {{ series.why }}</span
  >
  <span v-else :data-series="series.id" :title="allInWords(series)"
    ><ToldValue
      :value="series.value"
      :unit="series.unit"
      :severity="severity"
      :distance="series.distance"
  /></span>
  <small v-if="over" class="over soft">{{ over }}</small>
</template>

<style scoped>
.over {
  display: block;
  white-space: nowrap;
}
</style>
