<script setup lang="ts">
import { useElementSize, usePreferredDark } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Points } from '@/api/types'
import { clock, clockWithSeconds, date, onAxis } from '@/text/format'
import type { Marker } from '@/api/types'
import { MARKS } from '@/markers/useMarkers'
import { init, type EChartsType } from './echarts'
import LimitLines, { type Line } from './LimitLines.vue'
import { ends, near } from './scale'
import { useMoment } from './useMoment'

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
  max?: number
  limits?: Line[]
  below?: boolean
  editable?: boolean
  band?: boolean
  markers?: Marker[]
}>()
const emit = defineEmits<{
  zoom: [from: number, to: number]
  back: []
  limit: [kind: Line['kind'], value: number]
}>()

const LEFT = 52
const WITH_LABELS = 66
const WITHOUT_LABELS = 10
const TOP = 8
const BOTTOM = 20

const box = ref<HTMLElement>()
const { width, height } = useElementSize(box)
const dark = usePreferredDark()
const moment = useMoment()
let chart: EChartsType | undefined

const right = computed(() => (props.limits?.length ? WITH_LABELS : WITHOUT_LABELS))
const plot = computed(() => Math.max(1, width.value - LEFT - right.value))

const values = computed(() => [
  ...(props.points?.min ?? []),
  ...(props.points?.max ?? []),
  ...(props.band ? [...(props.points?.normalLow ?? []), ...(props.points?.normalHigh ?? [])] : []),
])
const fitting = computed(() => {
  const numbers = (props.limits ?? []).map((l) => l.value)
  const shown = props.editable ? numbers : near(numbers, values.value, props.goodEnd)
  const found = ends([...values.value, ...shown], props.unit, props.goodEnd)
  return { min: found.min, max: Math.max(found.max, props.max ?? -Infinity) }
})
/** While a limit is dragged the scale must not move under the pointer. */
const held = ref<{ min: number; max: number }>()
const scale = computed(() => held.value ?? fitting.value)
const ticksAt = computed(() =>
  (props.markers ?? [])
    .filter((m) => (m.to ?? m.from) >= props.from && m.from <= props.to)
    .map((m) => ({ ...m, left: xOf(Math.max(props.from, m.from)), sign: MARKS[m.kind] })),
)
const xOf = (at: number) => LEFT + ((at - props.from) / (props.to - props.from)) * plot.value
const atOf = (x: number) => props.from + ((x - LEFT) / plot.value) * (props.to - props.from)

const cross = computed(() => {
  const at = moment.value
  return at !== undefined && at >= props.from && at <= props.to ? xOf(at) : undefined
})

/** Why there is nothing under the pointer, where a span says so. */
const gapHere = computed(() => {
  const at = moment.value
  return at === undefined
    ? undefined
    : props.points?.spans.find((span) => at >= span.from && at <= span.to)
})

const drag = ref<{ from: number; to: number }>()
let pressed: number | undefined

function xIn(event: PointerEvent) {
  const x = event.clientX - (box.value?.getBoundingClientRect().left ?? 0)
  return Math.min(LEFT + plot.value, Math.max(LEFT, x))
}

function down(event: PointerEvent) {
  if (event.button !== 0) return
  pressed = xIn(event)
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}

function hover(event: PointerEvent) {
  const x = xIn(event)
  moment.value = atOf(x)
  if (pressed !== undefined && Math.abs(x - pressed) > 4) {
    drag.value = { from: Math.min(x, pressed), to: Math.max(x, pressed) }
  }
}

function up() {
  const chosen = drag.value
  pressed = undefined
  drag.value = undefined
  if (chosen) emit('zoom', atOf(chosen.from), atOf(chosen.to))
}

function leave() {
  moment.value = undefined
}

const token = (name: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim()

function hatch(): HTMLCanvasElement {
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = 8
  const pen = canvas.getContext('2d')
  if (pen) {
    pen.strokeStyle = token('--slate')
    pen.globalAlpha = 0.45
    pen.beginPath()
    pen.moveTo(-2, 10)
    pen.lineTo(10, -2)
    pen.moveTo(-2, 2)
    pen.lineTo(2, -2)
    pen.moveTo(6, 10)
    pen.lineTo(10, 6)
    pen.stroke()
  }
  return canvas
}

function tick(at: number) {
  if (props.to - props.from > 3 * 86_400_000) return date(at)
  return props.to - props.from < 10 * 60_000 ? clockWithSeconds(at) : clock(at)
}

function line(values: (number | null)[], extra: object) {
  const at = props.points?.at ?? []
  return {
    type: 'line' as const,
    data: at.map((t, i) => [t, values[i]]),
    showSymbol: false,
    connectNulls: false,
    silent: true,
    animation: false,
    ...extra,
  }
}

/** A single reading between two gaps would draw no line: it gets a dot. */
function lonely(values: (number | null)[]) {
  return (_: unknown, p: { dataIndex: number }) => {
    const i = p.dataIndex
    const there = (n: number) => values[n] !== null && values[n] !== undefined
    return there(i) && !there(i - 1) && !there(i + 1) ? 4 : 0
  }
}

/** The parts of the line that are at or beyond a limit but not beyond the next one. */
function beyond(from: number | undefined, to: number | undefined) {
  const worse = (v: number, limit: number) => (props.below ? v <= limit : v >= limit)
  return (props.points?.mean ?? []).map((v) =>
    v !== null && from !== undefined && worse(v, from) && (to === undefined || !worse(v, to))
      ? v
      : null,
  )
}

function thick(values: (number | null)[], colour: string) {
  return line(values, {
    lineStyle: { color: colour, width: 3 },
    itemStyle: { color: colour },
    showSymbol: true,
    symbolSize: lonely(values),
    z: 4,
  })
}

/** The normal band with its thin edges, behind everything. */
function bandSeries() {
  const low = props.points?.normalLow ?? []
  const high = props.points?.normalHigh ?? []
  if (!props.band || low.every((v) => v === null)) return []
  const edge = { color: token('--oat-edge'), width: 1 }
  const between = high.map((v, i) => (v === null ? null : v - (low[i] ?? v)))
  const stacked = { stack: 'normal', stackStrategy: 'all', lineStyle: edge, z: 1 }
  return [
    line(low, stacked),
    line(between, { ...stacked, areaStyle: { color: token('--oat'), opacity: 1 } }),
  ]
}

function draw() {
  if (!chart || width.value === 0) return
  const mean = props.points?.mean ?? []
  const least = props.points?.min ?? []
  const most = props.points?.max ?? []
  const { min: bottom, max: top } = scale.value
  const warning = props.limits?.find((l) => l.kind === 'warning')?.value
  const critical = props.limits?.find((l) => l.kind === 'critical')?.value
  const ink = token('--ink-soft')
  const colour = token(`--line-${props.colour ?? 1}`)
  const spread = most.map((v, i) => (v === null ? null : v - (least[i] ?? v)))
  const faint = { lineStyle: { opacity: 0 }, stack: 'spread', stackStrategy: 'all', z: 2 }
  chart.setOption(
    {
      animation: false,
      textStyle: { fontFamily: token('--text') },
      grid: { left: LEFT, right: right.value, top: TOP, bottom: BOTTOM },
      xAxis: {
        type: 'time',
        min: props.from,
        max: props.to,
        splitNumber: Math.max(2, Math.floor(plot.value / 90)),
        axisLine: { show: false },
        axisTick: { show: false },
        axisLabel: { color: ink, fontSize: 11, hideOverlap: true, formatter: tick },
      },
      yAxis: {
        type: 'value',
        min: bottom,
        max: top,
        interval: (top - bottom) / 2,
        axisLabel: {
          color: ink,
          fontSize: 11,
          formatter: (v: number) => onAxis(v, props.unit),
        },
        splitLine: { lineStyle: { color: token('--line') } },
      },
      series: [
        ...bandSeries(),
        line(least, faint),
        line(spread, { ...faint, areaStyle: { color: colour, opacity: 0.18 } }),
        line(mean, {
          lineStyle: { color: colour, width: 1.5 },
          itemStyle: { color: colour },
          showSymbol: true,
          symbolSize: lonely(mean),
          z: 3,
          markArea: {
            silent: true,
            itemStyle: { color: { image: hatch(), repeat: 'repeat' } },
            data: (props.points?.spans ?? []).map((s) => [{ xAxis: s.from }, { xAxis: s.to }]),
          },
        }),
        thick(beyond(warning, critical), token('--apricot')),
        thick(beyond(critical, undefined), token('--raspberry')),
      ],
    },
    { notMerge: true },
  )
}

onMounted(() => {
  if (box.value) chart = init(box.value)
  draw()
})
onBeforeUnmount(() => chart?.dispose())
watch([width, height], () => {
  chart?.resize()
  draw()
})
watch(
  [
    () => props.points,
    () => props.from,
    () => props.to,
    scale,
    () => props.limits,
    () => props.band,
    dark,
  ],
  draw,
)
</script>

<template>
  <div
    class="band-chart"
    role="img"
    :aria-label="`${title} over time`"
    @pointerdown="down"
    @pointermove="hover"
    @pointerup="up"
    @pointerleave="leave"
    @dblclick="emit('back')"
  >
    <div ref="box" class="canvas" />
    <LimitLines
      v-if="limits?.length"
      :lines="limits"
      :unit="unit"
      :min="scale.min"
      :max="scale.max"
      :left="LEFT"
      :right="right"
      :top="TOP"
      :height="Math.max(1, height - TOP - BOTTOM)"
      :editable="editable"
      @move="(kind, value) => emit('limit', kind, value)"
      @hold="(on) => (held = on ? { ...fitting } : undefined)"
    />
    <span
      v-for="mark in ticksAt"
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
