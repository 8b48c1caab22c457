<script setup lang="ts">
import { computed } from 'vue'
import type { Points } from '@/api/types'
import { momentInWords, number, range } from '@/text/format'

/** The points of a chart as a table, the newest first: for who can't see it, or wants the numbers. */
const props = defineProps<{ points: Points; unit: string; title: string; now: number }>()

const told = (value: number | null | undefined) => (value == null ? '' : number(value, props.unit))
const rows = computed(() => {
  const { at, mean, min, max, normalLow, normalHigh, spans } = props.points
  return at
    .map((when, i) => {
      const [low, high] = [normalLow[i] ?? null, normalHigh[i] ?? null]
      const why = spans.find((span) => when >= span.from && when <= span.to)?.why
      return {
        when,
        mean: mean[i] ?? null,
        why: why ?? 'nothing',
        spread: told(min[i]) === told(max[i]) ? '' : `${told(min[i])} – ${told(max[i])}`,
        normal: low === null || high === null ? '' : range(low, high, props.unit),
      }
    })
    .reverse()
})
</script>

<template>
  <table class="rows" :aria-label="`${title}, point by point`">
    <thead>
      <tr>
        <th>At</th>
        <th>Mean</th>
        <th>Least – greatest</th>
        <th>Normal</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.when">
        <th scope="row">{{ momentInWords(row.when, now) }}</th>
        <td v-if="row.mean === null" class="silent">◌ {{ row.why }}</td>
        <td v-else>{{ told(row.mean) }}</td>
        <td>{{ row.spread }}</td>
        <td class="soft">{{ row.normal }}</td>
      </tr>
    </tbody>
  </table>
</template>
