<script setup lang="ts">
import { computed, nextTick, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import PartsBar from '@/frame/PartsBar.vue'
import { useInAddress } from '@/window/useInAddress'
import { version } from '../../package.json'
import { htmlOf, LICENCE, PAGES } from './pages'

/** What this is, by what it may be used, and its documentation. */
const key = useInAddress('page', 'how')
const page = computed(() => PAGES.find((one) => one.key === key.value) ?? PAGES[0]!)
const html = computed(() => htmlOf(page.value.text))
const route = useRoute()
const router = useRouter()

function show() {
  if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
}
watch(
  () => [page.value.key, route.hash],
  () => nextTick(show),
  { immediate: true, flush: 'post' },
)

/** A link among the pages is followed without leaving. */
function follow(event: MouseEvent) {
  const href = (event.target as HTMLElement).closest('a')?.getAttribute('href')
  if (!href || event.ctrlKey || event.metaKey || event.shiftKey) return
  event.preventDefault()
  void router.push(href.startsWith('#') ? { query: route.query, hash: href } : href)
}
</script>

<template>
  <section aria-label="About">
    <p class="soft">
      Jam Jar {{ version }}, under the Apache License 2.0. The API is described at
      <a class="link" href="/api/openapi.json">/api/openapi.json</a>.
    </p>
    <PartsBar v-model="key" :parts="PAGES" />
    <pre v-if="page.key === 'licence'" tabindex="0">{{ LICENCE }}</pre>
    <!-- written by us and shipped with this page: nothing of it comes from elsewhere -->
    <!-- eslint-disable-next-line vue/no-v-html -->
    <div v-else class="page" @click="follow" v-html="html" />
  </section>
</template>

<style scoped>
.page,
pre {
  max-width: 860px;
  overflow-wrap: anywhere;
}
.page :deep(:is(h2, h3, h4)) {
  margin: 20px 0 8px;
}
.page :deep(:is(p, ul, ol, pre, table)) {
  margin-bottom: 10px;
}
.page :deep(:is(ul, ol)) {
  padding-left: 20px;
}
.page :deep(:is(code, pre)),
pre {
  font-family: var(--code);
  font-size: 12px;
}
.page :deep(pre),
pre {
  padding: 8px 12px;
  overflow-x: auto;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.page :deep(table) {
  border-collapse: collapse;
}
.page :deep(:is(td, th)) {
  padding: 4px 12px 4px 0;
  border-top: 1px solid var(--line);
  vertical-align: top;
  text-align: left;
}
</style>
