<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted } from 'vue'
import { useRoute } from 'vue-router'
import EntryPage from './access/EntryPage.vue'
import { askedFor } from './access/elsewhere'
import { useMe } from './access/useMe'
import { router } from './router'

/** Nothing is asked, and nothing shown, before it is known who looks. */
const frame = import('./frame/MainFrame.vue')
const MainFrame = defineAsyncComponent(() => frame)
const { me, been, load, failure } = useMe()
const route = useRoute()
/** An address that lets in: also who is signed in comes in by it anew. */
const entering = computed(() => route.name === 'enter')
onMounted(async () => {
  await load()
  const page = me.value?.name && askedFor()
  if (page) await router.replace(page)
})
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
