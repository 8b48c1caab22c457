<script setup lang="ts">
import { computed, ref } from 'vue'
import { plain } from '@/text/format'

/** The limits of a chart as thin ruled lines, labelled at the right edge; they move only while they are edited. */
export type Line = { kind: 'warning' | 'critical'; value: number }

const props = defineProps<{
  lines: Line[]
  unit: string
  min: number
  max: number
  left: number
  right: number
  top: number
  height: number
  editable?: boolean
  /** Signs alone: the numbers stand above the chart. */
  brief?: boolean
}>()
const emit = defineEmits<{ move: [kind: Line['kind'], value: number]; hold: [on: boolean] }>()

const SIGNS = { warning: '◣', critical: '◆' }
const LABEL = 14

const yOf = (value: number) =>
  props.top + ((props.max - value) / (props.max - props.min)) * props.height

const placed = computed(() => {
  const inside = props.lines
    .map((line) => {
      const beyond = line.value > props.max ? ' ↑' : line.value < props.min ? ' ↓' : ''
      const y = Math.round(Math.min(props.top + props.height, Math.max(props.top, yOf(line.value))))
      return { ...line, y, label: y, beyond }
    })
    .sort((a, b) => a.y - b.y)
  // labels that would collide move apart
  for (let i = 1; i < inside.length; i++) {
    const above = inside[i - 1]
    const here = inside[i]
    if (above && here && here.label - above.label < LABEL) {
      const middle = (above.label + here.label) / 2
      above.label = Math.max(props.top, middle - LABEL / 2)
      here.label = above.label + LABEL
    }
  }
  return inside
})

const dragged = ref<Line['kind']>()
let box: DOMRect | undefined

function press(event: PointerEvent, kind: Line['kind']) {
  if (!props.editable) return
  event.stopPropagation()
  const target = event.currentTarget as HTMLElement
  target.setPointerCapture(event.pointerId)
  box = target.offsetParent?.getBoundingClientRect()
  dragged.value = kind
  emit('hold', true)
}

function drop() {
  dragged.value = undefined
  emit('hold', false)
}

function drag(event: PointerEvent) {
  if (!dragged.value || !box) return
  event.stopPropagation()
  const y = Math.min(props.height, Math.max(0, event.clientY - box.top - props.top))
  const value = props.max - (y / props.height) * (props.max - props.min)
  const step = 10 ** Math.floor(Math.log10((props.max - props.min) / 100))
  emit('move', dragged.value, Number((Math.round(value / step) * step).toPrecision(12)))
}
</script>

<template>
  <template v-for="line in placed" :key="line.kind">
    <div
      v-if="!line.beyond || editable"
      class="line"
      :class="[line.kind, { editable }]"
      :style="{ top: `${line.y}px`, left: `${left}px`, right: `${right}px` }"
      :title="editable ? 'drag to move' : undefined"
      @pointerdown="press($event, line.kind)"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
    />
    <span
      class="label"
      :class="line.kind"
      :style="{ top: `${line.label - LABEL / 2}px`, width: `${right - 4}px` }"
      >{{ brief ? '' : `${plain(line.value, unit)} ` }}{{ SIGNS[line.kind] }}{{ line.beyond }}</span
    >
  </template>
</template>

<style scoped>
.line {
  position: absolute;
  height: 1.5px;
  background: currentcolor;
  pointer-events: none;
}
.line.editable {
  height: 11px;
  margin-top: -5px;
  background: linear-gradient(currentcolor, currentcolor) center / 100% 2px no-repeat;
  cursor: ns-resize;
  pointer-events: auto;
  touch-action: none;
}
.label {
  position: absolute;
  right: 0;
  overflow: hidden;
  font-size: 11px;
  line-height: 14px;
  pointer-events: none;
  white-space: nowrap;
}
</style>
