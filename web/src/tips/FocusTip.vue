<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { told, type Told } from './told'

/**
 * What stands in a title is told to who uses the keyboard too: of what has the focus, and of what it
 * holds, such as the numbers of a row.
 */
const tip = ref<{ words: Told[]; style: Record<string, string> }>()
const RESTS_MS = 400
let waiting: ReturnType<typeof setTimeout> | undefined

function place(of: Element): Record<string, string> {
  const box = of.getBoundingClientRect()
  const below = box.bottom + 8
  const left = `${Math.max(8, Math.min(box.left, innerWidth - 380))}px`
  return below < innerHeight - 120
    ? { left, top: `${below}px` }
    : { left, bottom: `${innerHeight - box.top + 8}px` }
}
function off() {
  clearTimeout(waiting)
  tip.value = undefined
}
useEventListener(document, 'focusin', (event) => {
  off()
  const of = event.target as Element
  if (!of.matches(':focus-visible')) return
  waiting = setTimeout(() => {
    const words = of.isConnected ? told(of) : []
    if (words.length) tip.value = { words, style: place(of) }
  }, RESTS_MS)
})
useEventListener(document, 'focusout', off)
useEventListener(document, 'pointerdown', off)
useEventListener(document, 'keydown', (event) => event.key === 'Escape' && off())
useEventListener(document, 'scroll', off, { capture: true, passive: true })
</script>

<template>
  <div v-if="tip" class="tip" role="tooltip" :style="tip.style">
    <p v-for="one in tip.words" :key="one.of + one.words">
      <strong v-if="one.of">{{ one.of }}</strong> {{ one.words }}
    </p>
  </div>
</template>

<style scoped>
.tip {
  position: fixed;
  z-index: 40;
  max-width: 372px;
  padding: 6px 10px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  box-shadow: var(--floats);
  font-size: 12.5px;
  pointer-events: none;
}
</style>
