<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useTheme } from '@/look/useTheme'
import { useLink } from '@/window/useLink'

/** The global pages; folded into one button where something matters more than they do. */
defineProps<{ folded: boolean }>()
const emit = defineEmits<{ keys: [] }>()

const PAGES = [
  { name: 'Applications', path: '/applications', own: { pick: undefined } },
  { name: 'Alerts', path: '/alerts' },
  { name: 'Recipes', path: '/recipes' },
  { name: 'End points', path: '/endpoints' },
  { name: 'Estate', path: '/estate' },
]
const { link } = useLink()
const route = useRoute()
const { theme, toggle } = useTheme()
const open = ref(false)
const menu = ref<HTMLElement>()
const button = ref<HTMLButtonElement>()

onClickOutside(menu, () => (open.value = false))
watch(
  () => route.fullPath,
  () => (open.value = false),
)
async function show() {
  open.value = !open.value
  await nextTick()
  menu.value?.querySelector<HTMLElement>('.list a')?.focus()
}
function close() {
  if (!open.value) return
  open.value = false
  button.value?.focus()
}
</script>

<template>
  <nav ref="menu" class="pages" aria-label="Pages" @keydown.esc.stop="close">
    <template v-if="!folded">
      <RouterLink
        v-for="page in PAGES"
        :key="page.path"
        class="link"
        :to="link(page.path, page.own)"
        >{{ page.name }}</RouterLink
      >
    </template>
    <button ref="button" class="link" type="button" :aria-expanded="open" @click="show">
      {{ folded ? 'pages' : 'more' }} ▾
    </button>
    <ul v-if="open" class="list">
      <template v-if="folded">
        <li v-for="page in PAGES" :key="page.path">
          <RouterLink class="link" :to="link(page.path, page.own)">{{ page.name }}</RouterLink>
        </li>
      </template>
      <li>
        <button class="link" type="button" @click="toggle">
          {{ theme === 'dark' ? 'light colours' : 'dark colours' }}
        </button>
      </li>
      <li>
        <button class="link" type="button" @click="emit('keys')">
          keys <span class="key">?</span>
        </button>
      </li>
    </ul>
  </nav>
</template>

<style scoped>
.pages {
  position: relative;
  display: flex;
  flex: none;
  align-items: center;
  gap: 16px;
}
.list {
  position: absolute;
  z-index: 20;
  top: 30px;
  right: 0;
  min-width: 140px;
  padding: 8px 0;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
  box-shadow: 0 4px 16px rgb(42 34 48 / 18%);
  list-style: none;
  white-space: nowrap;
}
.list a,
.list button {
  display: block;
  width: 100%;
  min-height: 28px;
  padding: 4px 16px;
  text-align: left;
}
</style>
