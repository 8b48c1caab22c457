<script setup lang="ts">
import { computed } from 'vue'
import { SIGN } from '@/alerts/alert'
import { exact, number } from '@/text/format'
import { departure, departureInWords } from './told'

/** A number with its unit, and with a sign where it is beyond a limit or outside its normal. */
const props = defineProps<{
  value: number
  unit: string
  severity?: 'warning' | 'critical'
  /** In spreads, of what is outside its normal for long enough. */
  distance?: number | null
}>()
const shown = computed(() => number(props.value, props.unit))
</script>

<template>
  <span :class="severity" :title="exact(value, unit)"
    >{{ severity ? `${SIGN[severity]} ` : '' }}{{ shown
    }}<span
      v-if="distance != null && !severity"
      class="departed"
      :title="departureInWords(distance)"
      >{{ departure(distance) }}</span
    ></span
  >
</template>

<style scoped>
.departed {
  margin-left: 6px;
  color: var(--ink);
  font-weight: 600;
  white-space: nowrap;
}
</style>
