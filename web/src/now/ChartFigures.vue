<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Series } from '@/api/types'
import { number } from '@/text/format'

/** The figures of the window under a chart: least, mean, 95 %, greatest, and of a total its sum. */
const props = defineProps<{ series: Series; from: number; to: number; live: boolean }>()
const LIVE_MS = 10_000

const { answer, failure } = useAnswer(
  () => props.series.id,
  async (id, signal) =>
    (await api.figures([id], Math.round(props.from), Math.round(props.to), signal))[0],
  {
    instead: () => (props.live ? props.to - props.from : [props.from, props.to].join()),
    follows: () => props.live && Math.floor(props.to / LIVE_MS),
  },
)
const summed = computed(() => props.series.unit.replace('/s', '').trim())
const told = (value: number | null | undefined, unit = props.series.unit) =>
  value === null || value === undefined ? '–' : number(value, unit)
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <dl v-else class="figures" aria-label="Figures of the window">
    <div>
      <dt>least</dt>
      <dd>{{ told(answer?.least) }}</dd>
    </div>
    <div>
      <dt>mean</dt>
      <dd>{{ told(answer?.mean) }}</dd>
    </div>
    <div title="95 % of the time it was at or below this">
      <dt>95 %</dt>
      <dd>{{ told(answer?.p95) }}</dd>
    </div>
    <div>
      <dt>greatest</dt>
      <dd>{{ told(answer?.greatest) }}</dd>
    </div>
    <div v-if="series.shape === 'total'">
      <dt>sum</dt>
      <dd>{{ told(answer?.sum, summed) }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.figures {
  display: flex;
  gap: 24px;
  padding: 4px 0;
}
.figures div {
  display: flex;
  gap: 6px;
}
dt {
  color: var(--ink-soft);
}
dd {
  font-weight: 600;
}
</style>
