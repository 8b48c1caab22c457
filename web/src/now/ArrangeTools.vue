<script setup lang="ts">
import { fitting, TALLEST, WIDEST, type Placed } from './arrangement'

/** What can be done with a chart while Now is unlocked: by dragging, and each by a word too. */
const props = defineProps<{
  placed: Placed
  title: string
  place: number
  count: number
  sized: boolean
}>()
const emit = defineEmits<{
  move: [to: number]
  size: [wide: number, tall: number]
  swap: []
  join: []
  remove: []
  drag: [on: boolean]
}>()

/** Dragging the corner: the size follows in whole columns and rows. */
function stretch(down: PointerEvent) {
  const corner = down.currentTarget as HTMLElement
  const box = corner.parentElement?.parentElement?.getBoundingClientRect()
  if (!box) return
  const column = box.width / props.placed.wide
  const row = box.height / props.placed.tall
  corner.setPointerCapture(down.pointerId)
  const follow = (move: PointerEvent) => {
    const { wide, tall } = fitting(
      (move.clientX - box.left) / column,
      (move.clientY - box.top) / row,
    )
    if (wide !== props.placed.wide || tall !== props.placed.tall) emit('size', wide, tall)
  }
  corner.addEventListener('pointermove', follow)
  corner.addEventListener(
    'lostpointercapture',
    () => corner.removeEventListener('pointermove', follow),
    { once: true },
  )
}
function begin(event: DragEvent) {
  event.dataTransfer?.setData('text/plain', props.placed.key)
  emit('drag', true)
}
</script>

<template>
  <div class="tools" role="toolbar" :aria-label="`Arrange ${title}`">
    <span
      class="grip"
      draggable="true"
      :title="`Drag ${title} to another place`"
      @dragstart="begin"
      @dragend="emit('drag', false)"
      >drag</span
    >
    <button
      class="link"
      type="button"
      aria-label="Earlier"
      title="one place earlier"
      :disabled="place === 0"
      @click="emit('move', place - 1)"
    >
      ◂
    </button>
    <button
      class="link"
      type="button"
      aria-label="Later"
      title="one place later"
      :disabled="place === count - 1"
      @click="emit('move', place + 1)"
    >
      ▸
    </button>
    <template v-if="sized">
      <button
        class="link"
        type="button"
        @click="emit('size', placed.wide === WIDEST ? 1 : placed.wide + 1, placed.tall)"
      >
        {{ placed.wide === WIDEST ? 'narrow' : 'wider' }}
      </button>
      <button
        class="link"
        type="button"
        @click="emit('size', placed.wide, placed.tall === TALLEST ? 1 : placed.tall + 1)"
      >
        {{ placed.tall === TALLEST ? 'lower' : 'taller' }}
      </button>
    </template>
    <button class="link" type="button" @click="emit('swap')">swap …</button>
    <button class="link" type="button" title="another counter in this chart" @click="emit('join')">
      with …
    </button>
    <button class="link" type="button" @click="emit('remove')">remove</button>
    <span
      v-if="sized"
      class="corner"
      aria-hidden="true"
      title="Drag to resize"
      @pointerdown.prevent="stretch"
    ></span>
  </div>
</template>

<style scoped>
.tools {
  position: absolute;
  z-index: 2;
  right: 1px;
  bottom: 1px;
  left: 1px;
  display: flex;
  align-items: center;
  gap: 10px;
  height: 26px;
  padding: 0 28px 0 8px;
  background: var(--plum-soft);
  font-size: 12px;
  white-space: nowrap;
}
.grip {
  color: var(--ink-soft);
  cursor: grab;
}
button:disabled {
  color: var(--ink-soft);
  cursor: default;
  opacity: 0.6;
}
.corner {
  position: absolute;
  right: 0;
  bottom: 0;
  width: 24px;
  height: 24px;
  background: linear-gradient(
    135deg,
    transparent 50%,
    var(--plum) 50%,
    var(--plum) 58%,
    transparent 58%,
    transparent 70%,
    var(--plum) 70%,
    var(--plum) 78%,
    transparent 78%
  );
  cursor: nwse-resize;
  touch-action: none;
}
</style>
