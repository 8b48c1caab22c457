<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { clock, seconds } from '@/text/format'
import { edgeMs, moved, rowsShown, type Pick } from './strip'

/** How many executions ended when, and how long they ran: ink by their number. A stretch of it can be picked. */
const props = defineProps<{
  cells: { at: number; row: number; count: number }[]
  from: number
  to: number
  stepMs: number
  /** What is shorter is not told. */
  leastMs: number
  /** Why not. */
  shorter: string
  /** What is picked, in words. */
  words: string
}>()
const pick = defineModel<Pick | undefined>({ required: true })

const LEFT = 52
const ROW = 16
const BOTTOM = 18
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const plot = computed(() => Math.max(1, width.value - LEFT))
const rows = computed(() => rowsShown(props.leastMs, props.cells))
const height = computed(() => rows.value.length * ROW)
const xOf = (at: number) => LEFT + ((at - props.from) / (props.to - props.from)) * plot.value
const top = (row: number) => height.value - (row - (rows.value[0] ?? 0) + 1) * ROW
const most = computed(() => Math.max(1, ...props.cells.map((cell) => cell.count)))
/** One is seen, a hundred are black. */
const ink = (count: number) => 0.22 + 0.78 * (Math.log1p(count - 1) / Math.log1p(most.value))
const stepPx = computed(() => Math.max(1.5, (props.stepMs / (props.to - props.from)) * plot.value))
const dark = computed(() => {
  const all = rows.value.filter((row) => edgeMs(row + 1) <= props.leastMs * 1.0001)
  return all.length * ROW
})
const times = computed(() =>
  [0.1, 0.3, 0.5, 0.7, 0.9].map((part) => props.from + part * (props.to - props.from)),
)
const drawnPick = computed(() => {
  const p = pick.value
  if (!p) return undefined
  const [x, right] = [Math.max(LEFT, xOf(p.begin)), Math.min(width.value, xOf(p.end))]
  const y = Math.max(0, top(p.highest))
  return { x, y, width: Math.max(3, right - x), height: top(p.lowest) + ROW - y }
})

let pressed: { x: number; y: number } | undefined
const place = (event: PointerEvent) => {
  const { left, top } = box.value?.getBoundingClientRect() ?? { left: 0, top: 0 }
  return {
    x: Math.min(width.value, Math.max(LEFT, event.clientX - left)),
    y: Math.min(height.value - 1, Math.max(0, event.clientY - top)),
  }
}
const dragged = ref<{ x: number; y: number; width: number; height: number }>()
function down(event: PointerEvent) {
  if (event.button !== 0) return
  pressed = place(event)
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent) {
  if (!pressed) return
  const now = place(event)
  dragged.value = {
    x: Math.min(now.x, pressed.x),
    y: Math.min(now.y, pressed.y),
    width: Math.abs(now.x - pressed.x),
    height: Math.abs(now.y - pressed.y),
  }
}
/** Whole steps and rows that it touches. */
function up(event: PointerEvent) {
  if (!pressed) return
  const [first, last] = [pressed, place(event)]
  pressed = undefined
  dragged.value = undefined
  const step = (x: number) =>
    Math.floor((((x - LEFT) / plot.value) * (props.to - props.from)) / props.stepMs)
  const row = (y: number) => (rows.value[0] ?? 0) + Math.floor((height.value - 1 - y) / ROW)
  pick.value = {
    begin: props.from + step(Math.min(first.x, last.x)) * props.stepMs,
    end: props.from + (step(Math.max(first.x, last.x)) + 1) * props.stepMs,
    lowest: row(Math.max(first.y, last.y)),
    highest: row(Math.min(first.y, last.y)),
  }
}

const WAYS: Record<string, { steps: number; rows: number }> = {
  ArrowLeft: { steps: -1, rows: 0 },
  ArrowRight: { steps: 1, rows: 0 },
  ArrowUp: { steps: 0, rows: 1 },
  ArrowDown: { steps: 0, rows: -1 },
}
function key(event: KeyboardEvent) {
  if (event.key === 'Escape' && pick.value) {
    pick.value = undefined
    event.stopPropagation()
    return
  }
  const way = WAYS[event.key]
  if (!way || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopPropagation()
  const fullest = [...props.cells].sort((a, b) => b.count - a.count)[0]
  if (!pick.value) {
    // it begins where most are
    if (fullest)
      pick.value = {
        begin: fullest.at,
        end: fullest.at + props.stepMs,
        lowest: fullest.row,
        highest: fullest.row,
      }
    return
  }
  pick.value = moved(pick.value, way, event.shiftKey, { ...props, rows: rows.value })
}
</script>

<template>
  <div
    ref="box"
    class="strip"
    tabindex="0"
    role="group"
    aria-label="When executions ended, and how long they ran: arrows move what is picked, with Shift they stretch it, Escape lets go"
    @keydown="key"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="up"
  >
    <svg :width="width" :height="height + BOTTOM" aria-hidden="true">
      <defs>
        <pattern id="not-told" width="6" height="6" patternUnits="userSpaceOnUse">
          <path d="M-1 7L7 -1M-1 1L1 -1M5 7L7 5" class="slant" />
        </pattern>
      </defs>
      <rect :x="LEFT" y="0" :width="plot" :height="height" class="ground" />
      <rect
        v-if="dark"
        :x="LEFT"
        :y="height - dark"
        :width="plot"
        :height="dark"
        fill="url(#not-told)"
      />
      <text v-if="dark" :x="LEFT + 8" :y="height - dark / 2 + 4">{{ shorter }}</text>
      <rect
        v-for="cell in cells"
        :key="`${cell.at} ${cell.row}`"
        :x="xOf(cell.at)"
        :y="top(cell.row) + 1"
        :width="stepPx"
        :height="ROW - 2"
        class="cell"
        :opacity="ink(cell.count)"
      />
      <template v-for="row in rows" :key="row">
        <text v-if="row % 2 === 0" :x="LEFT - 6" :y="top(row) + ROW + 4" class="edge">
          {{
            seconds(edgeMs(row) / 1000)
              .replace('.00', '')
              .replace('.0', '')
          }}
        </text>
      </template>
      <text v-for="at in times" :key="at" :x="xOf(at)" :y="height + 14" class="time">
        {{ clock(at) }}
      </text>
      <rect v-if="dragged ?? drawnPick" v-bind="dragged ?? drawnPick" class="pick" />
    </svg>
    <p class="unseen" aria-live="polite">{{ words }}</p>
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  touch-action: none;
  user-select: none;
}
svg {
  display: block;
}
.ground {
  fill: var(--card);
  stroke: var(--line);
}
.slant {
  fill: none;
  stroke: var(--slate);
  opacity: 0.45;
}
.cell {
  fill: var(--ink);
}
.pick {
  fill: none;
  stroke: var(--plum);
  stroke-width: 2;
}
text {
  fill: var(--ink-soft);
  font-size: 12px;
}
.edge {
  text-anchor: end;
}
.time {
  text-anchor: middle;
}
</style>
