<script setup lang="ts">
import { computed } from 'vue'
import type { Jar } from '@/api/types'
import { SIGN } from '@/alerts/alert'

/**
 * A jar: a level gauge with a normal range and a limit. Filled by how near its tightest counter is to its critical limit;
 * two marks are the normal range; the lid carries the worst open alert. Silent: dashed, no fill. No limits: a dotted mouth.
 */
const props = defineProps<{
  silent: boolean
  jar: Jar | null
  /** critical or warning */
  lid?: string
  size?: number
}>()
const height = computed(() => props.size ?? 20)

const BOTTOM = 38
const FULL = 14
const yOf = (share: number) => BOTTOM - Math.min(1.05, share) * (BOTTOM - FULL)
const fill = computed(() => (props.silent || !props.jar ? undefined : yOf(props.jar.share)))
const marks = computed(() =>
  props.silent ? [] : [props.jar?.low, props.jar?.high].flatMap((s) => (s == null ? [] : [yOf(s)])),
)
</script>

<template>
  <svg
    :width="height * 0.8"
    :height="height"
    viewBox="0 0 32 40"
    aria-hidden="true"
    :class="[{ off: props.silent }, props.lid]"
  >
    <clipPath :id="`jar-${jar?.series ?? 0}-${height}`">
      <path d="M7 8h18v3l4 4v20a3 3 0 0 1-3 3H6a3 3 0 0 1-3-3V15l4-4z" />
    </clipPath>
    <path
      d="M7 8h18v3l4 4v20a3 3 0 0 1-3 3H6a3 3 0 0 1-3-3V15l4-4z"
      class="glass"
      :stroke-dasharray="props.silent ? '4 3' : undefined"
    />
    <rect
      v-if="fill !== undefined"
      x="3"
      width="26"
      :y="fill"
      :height="BOTTOM - fill"
      class="fill"
      :clip-path="`url(#jar-${jar?.series ?? 0}-${height})`"
    />
    <path v-for="y in marks" :key="y" :d="`M22 ${y}h7`" class="mark" />
    <rect
      x="6"
      y="2"
      width="20"
      height="6"
      rx="1.5"
      class="mouth"
      :stroke-dasharray="props.silent ? '4 3' : props.jar || props.lid ? undefined : '1.5 2.5'"
    />
    <text v-if="lid && height > 40" x="16" y="7.2" class="sign">{{ SIGN[lid] }}</text>
  </svg>
</template>

<style scoped>
svg {
  flex: none;
}
.glass,
.mouth {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.mouth {
  fill: none;
}
.fill {
  fill: var(--fill);
}
.mark {
  stroke: var(--ink);
  stroke-width: 1.2;
  vector-effect: non-scaling-stroke;
}
.warning .mouth {
  fill: var(--apricot);
  stroke: var(--apricot);
}
.critical .mouth {
  fill: var(--raspberry);
  stroke: var(--raspberry);
}
.sign {
  fill: var(--card);
  font-size: 6px;
  text-anchor: middle;
}
.off .glass,
.off .mouth {
  stroke: var(--slate);
  fill: none;
}
</style>
