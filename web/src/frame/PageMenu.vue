<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { useTheme } from '@/look/useTheme'
import { useLink } from '@/window/useLink'
import MyMenu from '@/access/MyMenu.vue'
import { useMe } from '@/access/useMe'
import PopMenu from './PopMenu.vue'

/** The global pages; folded into one button where something matters more than they do. */
defineProps<{ folded: boolean }>()
const emit = defineEmits<{ keys: [] }>()

const PAGES = [
  { name: 'Alerts', path: '/alerts' },
  { name: 'Limits', path: '/limits', own: { pick: undefined } },
  { name: 'What moved', path: '/moved' },
  { name: 'Side by side', path: '/together' },
  { name: 'Recipes', path: '/recipes' },
  { name: 'End points', path: '/endpoints' },
  { name: 'Estate', path: '/estate' },
]
/** What does not stand in the head. */
const MORE = [
  { name: 'Applications', path: '/applications', own: { pick: undefined } },
  { name: 'Telling', path: '/telling' },
  { name: 'About', path: '/about' },
]
const { link } = useLink()
const { theme, toggle } = useTheme()
const { name } = useMe()
/** A telephone has room for one menu. */
const narrow = useMediaQuery('(width < 700px)')
const LONGEST = 16
const short = computed(() =>
  name.value.length > LONGEST ? `${name.value.slice(0, LONGEST - 1)}…` : name.value,
)
</script>

<template>
  <nav class="pages" aria-label="Pages">
    <template v-if="!folded">
      <RouterLink
        v-for="page in PAGES"
        :key="page.path"
        class="link"
        :to="link(page.path, page.own)"
        >{{ page.name }}</RouterLink
      >
    </template>
    <PopMenu :words="folded ? 'pages ▾' : 'more ▾'">
      <li v-for="page in folded ? [...PAGES, ...MORE] : MORE" :key="page.path">
        <RouterLink class="link" :to="link(page.path, page.own)">{{ page.name }}</RouterLink>
      </li>
      <MyMenu v-if="narrow" />
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
    </PopMenu>
    <PopMenu v-if="!narrow" :words="`${short} ▾`" :title="`Your account: ${name}`">
      <MyMenu />
    </PopMenu>
  </nav>
</template>

<style scoped>
.pages {
  display: flex;
  flex: none;
  align-items: center;
  gap: 16px;
}
</style>
