<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { day, plain } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useShownMoment } from '@/window/useShownMoment'
import { recursInWords } from './recurs'

/** Of what is good at zero only: on how many of the days before it came back about this hour, or that of a moment. */
const props = defineProps<{ series: number; unit: string; about?: number }>()
const QUARTER = 15 * 60_000
const now = useClock()
const { rests } = useShownMoment()
// the same hour is the same question
const at = computed(() => Math.floor((props.about ?? rests.value ?? now.value) / QUARTER) * QUARTER)
const { answer, failure } = useAnswer(
  () => `${props.series} ${at.value}`,
  (_, signal) => api.recurs(props.series, at.value, signal),
)
const words = computed(() => (answer.value ? recursInWords(answer.value, at.value) : ''))
const days = computed(() =>
  (answer.value?.days ?? [])
    .map((one) => `${day(one.at)} (${plain(one.greatest, props.unit)})`)
    .join(', '),
)
</script>

<template>
  <span v-if="failure" class="ends recurs" :title="failure">◣ whether it recurs is not known</span>
  <span v-else-if="words" class="ends recurs" :title="days">{{ words }}</span>
</template>

<style scoped>
.recurs {
  color: var(--ink);
}
</style>
