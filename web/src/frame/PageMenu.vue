<script setup lang="ts">
import { useTheme } from '@/look/useTheme'
import { useLink } from '@/window/useLink'
import { computed } from 'vue'
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
const MORE = [{ name: 'Applications', path: '/applications', own: { pick: undefined } }]
/** What belongs to who is signed in, and to who lets others in. */
const PEOPLE = [
  { name: 'your account', path: '/account' },
  { name: 'people and programs', path: '/people' },
  { name: 'who did what', path: '/audit' },
]
const { link } = useLink()
const { theme, toggle } = useTheme()
const { name, leave, may } = useMe()
const ofMe = computed(() => (may('administer') ? PEOPLE : PEOPLE.slice(0, 1)))
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
    <PopMenu :words="`${name} ▾`" title="Your account">
      <li v-for="page in ofMe" :key="page.path">
        <RouterLink class="link" :to="link(page.path)">{{ page.name }}</RouterLink>
      </li>
      <li><button class="link" type="button" @click="leave()">sign out</button></li>
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
