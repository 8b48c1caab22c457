<script setup lang="ts">
import { computed } from 'vue'
import { useLink } from '@/window/useLink'
import { useMe } from './useMe'

/** In a menu: what belongs to who is signed in, and to who lets others in. */
const PAGES = [
  { name: 'your account', path: '/account' },
  { name: 'people and programs', path: '/people' },
  { name: 'who did what', path: '/audit' },
  { name: 'how it is set', path: '/settings' },
]
const { link } = useLink()
const { leave, may } = useMe()
const mine = computed(() => (may('administer') ? PAGES : PAGES.slice(0, 1)))
</script>

<template>
  <li v-for="page in mine" :key="page.path">
    <RouterLink class="link" :to="link(page.path)">{{ page.name }}</RouterLink>
  </li>
  <li><button class="link" type="button" @click="leave()">sign out</button></li>
</template>
