<script setup lang="ts">
import { computed } from 'vue'
import type { Series } from '@/api/types'
import ChartCard from '@/now/ChartCard.vue'
import { usePoints } from './usePoints'
import { onWholeBench } from '@/now/arrangement'
import { linesOf } from '@/limits/limits'
import { useLink } from '@/window/useLink'
import { useZoom } from '@/window/useZoom'

/** Charts of given series, three in a row; each opens on the whole bench of Now. */
export type Cell = { series: Series; instance: number; name?: string; colour?: number }
const props = defineProps<{ cells: Cell[] }>()

const { go } = useLink()
const { points, shown, failure, asking } = usePoints(
  computed(() => props.cells.map((c) => c.series)),
  computed(() => [...new Set(props.cells.map((c) => c.instance))]),
)
const { zoom, undo } = useZoom()
/** The plots of a page stand in line. */
const room = computed(() => props.cells.some((cell) => linesOf(cell.series).length))

function open(cell: Cell, edit?: 'limit') {
  go('/now', { pick: cell.instance, ...onWholeBench(cell.series, edit) })
}
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <div class="grid">
    <ChartCard
      v-for="(cell, i) in cells"
      :key="`${i} ${cell.series.counter}`"
      :series="cell.series"
      :points="points[cell.series.id]"
      :from="shown.from"
      :to="shown.to"
      :live="shown.live"
      :busy="asking"
      :instance="cell.name"
      :of="cell.instance"
      :colour="cell.colour"
      fixed
      :room="room"
      @zoom="zoom"
      @back="undo"
      @open="open(cell)"
      @edit="open(cell, 'limit')"
    />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 12px;
}
@media (width < 700px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
