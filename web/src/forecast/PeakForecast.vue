<script setup lang="ts">
import { ElInputNumber } from 'element-plus'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Series } from '@/api/types'
import { day } from '@/text/format'
import { forecastInWords } from './forecast'

/** When the daily peaks of a counter reach what there is room for, with how it is reckoned behind a click. */
const props = defineProps<{ series: Series }>()
const NOON = 43_200_000
const typed = ref<number>()
const capacity = computed(() => (typed.value && typed.value > 0 ? typed.value : undefined))
const { answer, failure } = useAnswer(
  () => props.series.id,
  (id, signal) => api.forecast(id, capacity.value, signal),
  { instead: () => `${props.series.id} ${capacity.value}` },
)
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else-if="!answer" class="soft">Asking …</p>
  <details v-else>
    <summary>{{ forecastInWords(answer, series.unit) }}</summary>
    <p class="soft">
      Looked at is the greatest mean of five minutes of each whole day{{
        answer.days ? ` since ${day(answer.from + NOON)}` : ''
      }}, without incidents, maintenance and what was before a new normal; begun again where the
      peaks of a week stay lower by a third or higher by a half. The line has the middle of the
      slopes between any two days, and half of the days lie above it. The range is that of the
      middle eight tenths of the slopes and of the days about the line; what takes three times as
      long as there were days is not in sight.
    </p>
    <label class="soft"
      >Room for
      <ElInputNumber
        v-model="typed"
        :controls="false"
        :placeholder="answer.capacity === null ? '' : `${answer.capacity}`"
        aria-label="Room for"
        size="small"
      />
      {{ series.unit }} <span v-if="answer.capacityFrom">({{ answer.capacityFrom }})</span></label
    >
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}
</style>
