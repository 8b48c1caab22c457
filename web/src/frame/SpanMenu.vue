<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { nextTick, ref } from 'vue'
import { useKeys } from '@/keys/useKeys'
import { SPANS, type Span } from './rail'

/** The spans of the calendar, by one key. */
const emit = defineEmits<{ pick: [span: Span] }>()
const open = ref(false)
const menu = ref<HTMLElement>()
const button = ref<HTMLButtonElement>()
onClickOutside(menu, () => (open.value = false))

async function show() {
  open.value = !open.value
  await nextTick()
  menu.value?.querySelector<HTMLElement>('.list button')?.focus()
}
function close() {
  open.value = false
  button.value?.focus()
}
function choose(span: Span) {
  close()
  emit('pick', span)
}
function step(by: 1 | -1) {
  const all = [...(menu.value?.querySelectorAll<HTMLElement>('.list button') ?? [])]
  const at = all.findIndex((one) => one === document.activeElement)
  all[(at + by + all.length) % all.length]?.focus()
}
useKeys({ c: () => void show() })
</script>

<template>
  <span
    ref="menu"
    class="spans"
    @keydown.esc.stop="close"
    @keydown.down.prevent="step(1)"
    @keydown.up.prevent="step(-1)"
  >
    <button
      ref="button"
      type="button"
      class="link"
      title="a span of the calendar (c)"
      :aria-expanded="open"
      @click="show"
    >
      span
    </button>
    <ul v-if="open" class="list">
      <li v-for="span in SPANS" :key="span">
        <button type="button" class="link" @click="choose(span)">{{ span }}</button>
      </li>
    </ul>
  </span>
</template>

<style scoped>
.spans {
  position: relative;
}
.list {
  position: absolute;
  z-index: 20;
  bottom: 26px;
  left: 0;
  min-width: 120px;
  padding: 8px 0;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
  box-shadow: 0 4px 16px rgb(42 34 48 / 18%);
  list-style: none;
  white-space: nowrap;
}
.list button {
  width: 100%;
  min-height: 26px;
  padding: 2px 12px;
  text-align: left;
}
</style>
