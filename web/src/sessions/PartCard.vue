<script setup lang="ts">
import { computed } from 'vue'
import type { Points } from '@/api/types'
import BandChart from '@/chart/BandChart.vue'
import { placeAt } from '@/chart/points'
import { useMarkers } from '@/markers/useMarkers'
import { number } from '@/text/format'
import { useShownMoment } from '@/window/useShownMoment'
import { useZoom } from '@/window/useZoom'

/** One part of what is counted as a small chart: its mean in each step. */
const props = defineProps<{
  title: string
  about: string
  points: Points
  unit?: string
  beside: Points[]
  from: number
  to: number
  /** Whether the list below is cut down to it. */
  picked?: boolean
  /** It can be picked. */
  picks?: boolean
}>()
const emit = defineEmits<{ pick: [] }>()
const { at } = useShownMoment()
const { zoom, undo } = useZoom()
const { here: markers } = useMarkers()
const value = computed(() => {
  const place = placeAt(props.points, at.value ?? props.to)
  return props.points.mean[place] ?? null
})
</script>

<template>
  <article class="part" :class="{ picked }" :aria-label="title">
    <header>
      <h2 :title="title">
        <button
          v-if="picks"
          type="button"
          class="plain"
          :aria-pressed="picked"
          @click="emit('pick')"
        >
          {{ title }}
        </button>
        <template v-else>{{ title }}</template>
      </h2>
      <strong data-testid="mean">{{ value === null ? '◌' : number(value, unit ?? '') }}</strong>
    </header>
    <p class="soft">{{ about }}</p>
    <BandChart
      class="chart"
      :points="points"
      :beside="beside"
      :from="from"
      :to="to"
      :unit="unit ?? ''"
      :good-end="0"
      :title="title"
      :markers="markers"
      @zoom="zoom"
      @back="undo"
    />
  </article>
</template>

<style scoped>
.part {
  display: flex;
  flex-direction: column;
  height: 138px;
  padding: 8px 8px 0 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.picked {
  border-color: var(--plum);
}
header {
  display: flex;
  gap: 8px;
  align-items: baseline;
  justify-content: space-between;
}
h2 {
  min-width: 0;
  overflow: hidden;
  font-size: 14px;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
h2 .plain {
  display: block;
  max-width: 100%;
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
strong {
  padding-right: 4px;
  font-size: 16px;
  font-weight: 400;
}
p {
  overflow: hidden;
  font-size: 12.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.chart {
  flex: 1;
}
</style>
