<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { Series } from '@/api/types'
import ChartCard from '@/now/ChartCard.vue'
import { usePoints } from './usePoints'
import { keyOf } from './useSeries'
import { useLink } from '@/window/useLink'

/** Charts of given series, three in a row; each opens on the whole bench of Now. */
export type Cell = { series: Series; instance: number; name?: string; colour?: number }
const props = defineProps<{ cells: Cell[] }>()

const router = useRouter()
const { go } = useLink()
const { points, failure, window } = usePoints(computed(() => props.cells.map((c) => c.series)))

function open(cell: Cell, edit?: string) {
  const big = keyOf(cell.series)
  go('/now', { pick: cell.instance, big, charts: big, edit })
}
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <div class="grid">
    <ChartCard
      v-for="cell in cells"
      :key="cell.series.id"
      :series="cell.series"
      :points="points[cell.series.id]"
      :from="window.from.value"
      :to="window.to.value"
      :live="window.live.value"
      :instance="cell.name"
      :colour="cell.colour"
      fixed
      @zoom="window.show"
      @back="router.back()"
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
</style>
