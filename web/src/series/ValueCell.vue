<script setup lang="ts">
import { computed } from 'vue'
import { SIGN } from '@/alerts/useAlerts'
import type { Series } from '@/api/types'
import { severityOf } from '@/limits/limits'
import { exact, number, range } from '@/text/format'

/** A value in a table, with its normal on hover, or the reason for having none. */
const props = defineProps<{ series: Series | undefined }>()

const severity = computed(() => props.series && severityOf(props.series, props.series.value))
const title = computed(() => {
  const s = props.series
  if (!s || s.value === null) return s?.meaning
  const normal =
    s.normalLow === null || s.normalHigh === null
      ? 'no normal yet'
      : `normal ${range(s.normalLow, s.normalHigh, s.unit)}`
  return `${exact(s.value, s.unit)} · ${normal} · ${s.meaning}`
})
</script>

<template>
  <span v-if="!series" class="soft" title="This make does not tell it.">–</span>
  <span v-else-if="series.value === null" class="silent" :title="title">◌ {{ series.why }}</span>
  <span v-else :class="severity" :title="title"
    >{{ severity ? `${SIGN[severity]} ` : '' }}{{ number(series.value, series.unit) }}</span
  >
</template>
