<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Strip, StripRow } from '@/api/types'
import { useMoment } from '@/chart/useMoment'
import { departure } from '@/series/told'
import { clock, momentInWords, number } from '@/text/format'
import { useClock } from '@/window/useClock'
import { farthestOf, FULL, ticksOf } from './ticks'

/**
 * One counter of many instances through time: a row each, ink by how far it was from its normal. The moment
 * under the pointer is that of the page.
 */
const props = defineProps<{ strip: Strip; from: number; to: number }>()
const emit = defineEmits<{ open: [row: StripRow] }>()
const moment = useMoment()
const now = useClock()
const under = ref<StripRow>()

const steps = computed(() => Math.max(1, (props.to - props.strip.from) / props.strip.width))
const rows = computed(() =>
  props.strip.rows.map((row) => ({ row, ...ticksOf(row.mean, row.distance), words: words(row) })),
)
const times = computed(() =>
  [0.1, 0.3, 0.5, 0.7, 0.9].map(
    (part) => props.strip.from + part * steps.value * props.strip.width,
  ),
)
const share = (at: number) => ((at - props.strip.from) / (steps.value * props.strip.width)) * 100

function words(row: StripRow) {
  const far = farthestOf(row.distance)
  const [value, distance] = [row.mean[far ?? -1], row.distance[far ?? -1]]
  if (far === undefined || value == null || distance == null)
    return `${row.name}: never four spreads from its normal`
  const at = props.strip.from + far * props.strip.width
  return `${row.name}: farthest from its normal at ${momentInWords(at, now.value)}, ${number(value, props.strip.unit)}, ${departure(distance)}`
}

function point(event: PointerEvent, row: StripRow) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const part = (event.clientX - box.left) / box.width
  moment.value = props.strip.from + part * steps.value * props.strip.width
  under.value = row
}
function leave() {
  moment.value = undefined
  under.value = undefined
}
const told = computed(() => {
  const [row, at] = [under.value, moment.value]
  if (!row || at === undefined) return ''
  const step = Math.floor((at - props.strip.from) / props.strip.width)
  const [value, distance] = [row.mean[step] ?? null, row.distance[step] ?? null]
  const what = value === null ? '◌ nothing' : number(value, props.strip.unit)
  const far = distance === null || Math.abs(distance) < 1 ? '' : `, ${departure(distance)}`
  return `${row.name} ${clock(props.strip.from + step * props.strip.width)}: ${what}${far}`
})
</script>

<template>
  <figure class="strip" @pointerleave="leave">
    <figcaption class="soft">
      {{ told || `up is above its normal, down is below; full height is ${FULL} spreads` }}
    </figcaption>
    <div v-for="{ row, near, off, far, gaps, words: all } in rows" :key="row.instance" class="line">
      <button type="button" class="link name" :title="all" @click="emit('open', row)">
        {{ row.name }}
      </button>
      <div class="plot" @pointermove="point($event, row)" @click="emit('open', row)">
        <svg :viewBox="`0 0 ${steps} 2`" preserveAspectRatio="none" role="img" :aria-label="all">
          <rect
            v-for="gap in gaps"
            :key="gap.from"
            class="gap"
            :x="gap.from"
            y="0.9"
            :width="gap.to - gap.from"
            height="0.2"
          />
          <path class="near" :d="near" />
          <path class="off" :d="off" />
          <path class="far" :d="far" />
        </svg>
        <span
          v-if="moment !== undefined && share(moment) >= 0 && share(moment) <= 100"
          class="hair"
          :style="{ left: `${share(moment)}%` }"
        />
      </div>
    </div>
    <div class="line times soft" aria-hidden="true">
      <span class="name" />
      <div class="plot">
        <span v-for="at in times" :key="at" :style="{ left: `${share(at)}%` }">{{
          clock(at)
        }}</span>
      </div>
    </div>
  </figure>
</template>

<style scoped>
.strip {
  margin: 0;
  padding-bottom: 12px;
}
figcaption {
  padding-bottom: 4px;
  font-size: 12px;
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  height: 25px;
}
.name {
  flex: none;
  width: 128px;
  min-height: 24px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.plot {
  position: relative;
  flex: 1;
  height: 24px;
  border-bottom: 1px solid var(--line);
  cursor: pointer;
}
svg {
  display: block;
  width: 100%;
  height: 24px;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.9;
}
.near {
  stroke: var(--oat-edge);
}
.off {
  stroke: var(--ink-soft);
}
.gap {
  fill: var(--slate);
  opacity: 0.5;
}
.hair {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 1px;
  background: var(--plum);
  pointer-events: none;
}
.times .plot {
  border: 0;
  font-size: 11px;
  cursor: default;
}
.times .plot span {
  position: absolute;
  transform: translateX(-50%);
}
</style>
