<script lang="ts">
/** Fetched beside the page, which is waited for before anything is shown. */
const frame = import('./frame/MainFrame.vue')
</script>

<script setup lang="ts">
import { computed, defineAsyncComponent, watch } from 'vue'
import { useRoute } from 'vue-router'
import EntryPage from './access/EntryPage.vue'
import { useMe } from './access/useMe'
import { useLikes } from './look/useLikes'
import { readZone } from './window/zone'

/** Nothing is asked, and nothing shown, before it is known who looks. */
const MainFrame = defineAsyncComponent(() => frame)
const { me, been, load, failure } = useMe()
const route = useRoute()
const { likes, load: loadLikes } = useLikes()
watch(
  () => me.value?.name,
  (name) => name && void loadLikes(),
  { immediate: true },
)
watch(
  () => likes.value.zone,
  () => readZone(route.query),
)
/** An address that lets in: also who is signed in comes in by it anew. */
const entering = computed(() => route.name === 'enter')
</script>

<template>
  <!-- who has to sign in again finds what was entered as it was -->
  <MainFrame v-if="been && !entering" :inert="!me?.name" />
  <EntryPage v-if="me && (entering || !me.name)" class="over" />
  <main v-else-if="!me && failure" class="over" aria-label="No answer">
    <p class="warning" role="alert">◣ {{ failure }}</p>
    <button type="button" class="link" @click="load">try again</button>
  </main>
</template>

<style scoped>
.over {
  position: fixed;
  z-index: 3000;
  inset: 0;
  overflow: auto;
  padding: 24px;
  background: var(--paper);
}
</style>
