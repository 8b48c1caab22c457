<script setup lang="ts">
import { computed } from 'vue'
import type { ComparedRow } from '@/api/types'
import { wayOf } from './words'

/** A change as a bar from the middle, its usual change behind it: five times that fills its half. */
const FULL = 5
const props = defineProps<{ row: ComparedRow }>()
const way = computed(() => wayOf(props.row))
const share = computed(() => Math.min(1, props.row.size / FULL) * 50)
</script>

<template>
  <span class="bar" aria-hidden="true">
    <i v-if="row.usual !== null" class="usual"></i>
    <i
      class="change"
      :class="way"
      :style="{
        width: `${share}%`,
        [row.shift > 0 ? 'left' : 'right']: '50%',
      }"
    ></i>
    <i class="middle"></i>
  </span>
</template>

<style scoped>
.bar {
  position: relative;
  display: block;
  width: 160px;
  height: 14px;
}
.bar i {
  position: absolute;
}
.usual {
  left: 40%;
  width: 20%;
  height: 14px;
  background: var(--oat);
}
.change {
  top: 4px;
  height: 6px;
  background: var(--ink);
}
.better {
  background: var(--pear);
}
.middle {
  left: 50%;
  width: 1px;
  height: 14px;
  background: var(--ink-soft);
}
</style>
