<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { nextTick, ref } from 'vue'

/** A button that opens a list to choose from; the focus goes into it, and comes back. */
defineProps<{ words: string; title?: string; /** Opens upwards. */ up?: boolean }>()
const open = ref(false)
const menu = ref<HTMLElement>()
const button = ref<HTMLButtonElement>()
const ITEMS = '.list a, .list button'
onClickOutside(menu, () => (open.value = false))

async function toggle() {
  open.value = !open.value
  await nextTick()
  menu.value?.querySelector<HTMLElement>(ITEMS)?.focus()
}
function close(event?: Event) {
  if (!open.value) return
  // what closes it closes nothing else
  event?.stopPropagation()
  open.value = false
  button.value?.focus()
}
function step(event: KeyboardEvent, by: 1 | -1) {
  if (!open.value) return
  event.preventDefault()
  const all = [...(menu.value?.querySelectorAll<HTMLElement>(ITEMS) ?? [])]
  const at = all.findIndex((one) => one === document.activeElement)
  all[(at + by + all.length) % all.length]?.focus()
}
defineExpose({ toggle })
</script>

<template>
  <span
    ref="menu"
    class="menu"
    @keydown.esc="close"
    @keydown.down="step($event, 1)"
    @keydown.up="step($event, -1)"
  >
    <button
      ref="button"
      class="link"
      type="button"
      :title="title"
      :aria-expanded="open"
      @click="toggle"
    >
      {{ words }}
    </button>
    <ul v-if="open" class="list" :class="{ up }" @click="close()">
      <slot />
    </ul>
  </span>
</template>

<style scoped>
.menu {
  position: relative;
}
.list {
  position: absolute;
  z-index: 20;
  top: 30px;
  right: 0;
  min-width: 130px;
  padding: 8px 0;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
  box-shadow: var(--floats);
  list-style: none;
  white-space: nowrap;
}
.list.up {
  top: auto;
  right: auto;
  bottom: 26px;
  left: 0;
}
.list :deep(li > *) {
  display: block;
  width: 100%;
  min-height: 28px;
  padding: 4px 16px;
  text-align: left;
}
</style>
