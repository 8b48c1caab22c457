<script setup lang="ts">
import { refDebounced, useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Marker, Points } from '@/api/types'
import { useTheme } from '@/look/useTheme'
import { MARKS } from '@/markers/useMarkers'
import { clockWithSeconds } from '@/text/format'
import LimitLines, { type Line } from './LimitLines.vue'
import { hatch } from './hatch'
import { options } from './options'
import type { ChartLine } from './lines'
import { edge, scaleOf, type Ends } from './scale'
import { useDrawing } from './useDrawing'
import { usePointer } from './usePointer'

/**
 * The one chart: mean over a faint minimum–maximum, the normal band behind it, limits as ruled lines with what is at or
 * beyond them thickened, gaps hatched with their reason, markers as ticks, the moment under the pointer.
 */
const props = defineProps<{
  points: Points | undefined
  from: number
  to: number
  unit: string
  goodEnd: number
  title: string
  colour?: number
  /** Drawn in the same scale beside it. */
  beside?: Points[]
  limits?: Line[]
  /** The numbers of its limits stand above it already. */
  brief?: boolean
  /** Leaves the room for labels of limits though it has none: it stands in line with one that has. */
  room?: boolean
  below?: boolean
  editable?: boolean
  band?: boolean
  markers?: Marker[]
  /** Several lines instead of the one, each with its name at its end. */
  lines?: ChartLine[]
}>()
const emit = defineEmits<{
  zoom: [from: number, to: number]
  back: []
  pin: []
  limit: [kind: Line['kind'], value: number]
}>()

const LEFT = 52
const WITH_LABELS = 66
const WITH_SIGNS = 26
const WITHOUT_LABELS = 10
const WITH_NAMES = 112
const TOP = 8
const BOTTOM = 20
const RESTS_MS = 120

const box = ref<HTMLElement>()
const { width, height } = useElementSize(box)
const { token } = useTheme()

const right = computed(() => {
  if (props.lines) return WITH_NAMES
  if (!props.limits?.length && !props.room) return WITHOUT_LABELS
  return props.brief ? WITH_SIGNS : WITH_LABELS
})
const plotWidth = computed(() => Math.max(1, width.value - LEFT - right.value))
/** The live edge moves on by a pixel, not by each second. */
const to = computed(() => edge(props.to, (props.to - props.from) / plotWidth.value))
const from = computed(() => to.value - (props.to - props.from))

/** Lines that are dragged or typed move by themselves: scale and what is beyond them follow once they rest. */
const rested = refDebounced(
  computed(() => props.limits ?? []),
  RESTS_MS,
)
const limits = computed(() => (props.editable ? rested.value : (props.limits ?? [])))

/** Of several lines the means alone are drawn. */
const drawnPoints = computed(() => {
  const lines = props.lines?.flatMap((line) => line.points ?? [])
  const all = [lines ?? props.points ?? [], props.beside ?? []].flat()
  return lines ? all.map((p) => ({ ...p, min: p.mean, max: p.mean })) : all
})
const fitting = computed(() =>
  scaleOf(
    drawnPoints.value,
    !props.lines && (props.band ?? false),
    limits.value.map((l) => l.value),
    props.editable ?? false,
    props.unit,
    props.goodEnd,
  ),
)
/** While a limit is dragged the scale must not move under the pointer. */
const held = ref<Ends>()
const scale = computed(() => held.value ?? fitting.value)

const { moment, cross, drag, xOf, down, move, up, leave } = usePointer(
  box,
  computed(() => ({ left: LEFT, width: plotWidth.value, from: from.value, to: to.value })),
  (f, t) => emit('zoom', f, t),
  () => emit('pin'),
)
const ticks = computed(() =>
  (props.markers ?? [])
    .filter((m) => (m.to ?? m.from) >= from.value && m.from <= to.value)
    .map((m) => ({ ...m, left: xOf(Math.max(from.value, m.from)), sign: MARKS[m.kind] })),
)

/** Why there is nothing under the pointer, where a span says so. */
const gapHere = computed(() => {
  const at = moment.value
  return at === undefined
    ? undefined
    : props.points?.spans.find((span) => at >= span.from && at <= span.to)
})

const drawn = useDrawing(
  box,
  computed(() => [width.value, height.value]),
  () =>
    width.value === 0 || !props.points
      ? undefined
      : options({
          points: props.points,
          from: from.value,
          to: to.value,
          unit: props.unit,
          scale: scale.value,
          limits: limits.value,
          below: props.below ?? false,
          band: props.band ?? false,
          colour: token(`--line-${props.colour ?? 1}`),
          token,
          hatch: hatch(token('--slate')),
          lines: props.lines?.map((line) => ({
            name: line.name,
            colour: token(`--line-${line.colour}`),
            points: line.points,
          })),
          grid: {
            left: LEFT,
            right: right.value,
            top: TOP,
            bottom: BOTTOM,
            width: plotWidth.value,
          },
        }),
)
</script>

<template>
  <div
    class="band-chart"
    role="img"
    :aria-busy="!drawn"
    :aria-label="`${title} over time`"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointerleave="leave"
    @dblclick="emit('back')"
  >
    <div ref="box" class="canvas" :class="{ empty: !points }" />
    <LimitLines
      v-if="props.limits?.length"
      :lines="props.limits"
      :unit="unit"
      :min="scale.min"
      :max="scale.max"
      :left="LEFT"
      :right="right"
      :top="TOP"
      :height="Math.max(1, height - TOP - BOTTOM)"
      :editable="editable"
      :brief="brief"
      @move="(kind, value) => emit('limit', kind, value)"
      @hold="(on) => (held = on ? { ...fitting } : undefined)"
    />
    <span
      v-for="mark in ticks"
      :key="mark.id"
      class="mark"
      :style="{ left: `${mark.left}px` }"
      :title="`${mark.kind}: ${mark.title}`"
      >{{ mark.sign }}</span
    >
    <div v-if="cross !== undefined" class="cross" :style="{ left: `${cross}px` }" />
    <div
      v-if="drag"
      class="zoom"
      :style="{ left: `${drag.from}px`, width: `${drag.to - drag.from}px` }"
    />
    <p v-if="cross !== undefined && gapHere" class="gap-reason silent">
      ◌ {{ gapHere.why }}, {{ clockWithSeconds(gapHere.from) }} –
      {{ clockWithSeconds(gapHere.to) }}
    </p>
  </div>
</template>

<style scoped>
.band-chart {
  position: relative;
  cursor: crosshair;
  touch-action: none;
  user-select: none;
}
.canvas {
  position: absolute;
  inset: 0;
}
.canvas.empty {
  visibility: hidden;
}
.cross {
  position: absolute;
  top: 8px;
  bottom: 20px;
  width: 1px;
  background: var(--ink-soft);
  pointer-events: none;
}
.zoom {
  position: absolute;
  top: 8px;
  bottom: 20px;
  background: var(--plum);
  opacity: 0.18;
  pointer-events: none;
}
.mark {
  position: absolute;
  top: 6px;
  bottom: 20px;
  border-left: 1px dotted var(--ink-soft);
  color: var(--ink-soft);
  font-size: 10px;
  line-height: 10px;
  text-indent: 2px;
}
.gap-reason {
  position: absolute;
  top: 8px;
  left: 56px;
  right: 10px;
  padding: 2px 6px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
  font-size: 12px;
  pointer-events: none;
}
</style>
