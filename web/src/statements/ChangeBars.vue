<script setup lang="ts">
import { computed } from 'vue'
import type { StatementRow } from '@/api/types'
import { changeInWords } from './words'

/** What changed of a statement's time: above what comes from the number of calls, below what from each of them. */
const props = defineProps<{
  row: StatementRow
  /** The largest part of all that are shown, by which all are drawn. */
  most: number
}>()
const HALF = 46
const bar = (value: number) => {
  const width = props.most ? Math.min(HALF, (Math.abs(value) / props.most) * HALF) : 0
  return { x: value < 0 ? HALF - width : HALF, width: Math.max(width, value ? 0.5 : 0) }
}
const parts = computed(() => {
  const { kind, total, moreOften, slower } = props.row.change
  if (kind === 'new' || kind === 'vanished') return [{ ...bar(total), y: 6, part: 'whole' }]
  return [
    { ...bar(moreOften), y: 1, part: 'often' },
    { ...bar(slower), y: 8, part: 'slower' },
  ]
})
</script>

<template>
  <span v-if="row.change.kind !== 'none'" class="change">
    <svg :width="2 * HALF" height="15" aria-hidden="true">
      <rect
        v-for="one in parts"
        :key="one.part"
        :class="one.part"
        :x="one.x"
        :y="one.y"
        :width="one.width"
        height="5"
      />
      <line :x1="HALF" :x2="HALF" y1="0" y2="15" />
    </svg>
    <span class="words">{{ changeInWords(row) }}</span>
  </span>
</template>

<style scoped>
.change {
  display: flex;
  gap: 8px;
  align-items: center;
}
.words {
  font-size: 12.5px;
  white-space: nowrap;
}
line {
  stroke: var(--ink-soft);
}
.often {
  fill: var(--line-1);
}
.slower {
  fill: var(--ink);
}
.whole {
  fill: var(--fill);
}
</style>
