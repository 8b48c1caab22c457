<script setup lang="ts">
import { defineAsyncComponent, onMounted } from 'vue'
import EntryPage from './access/EntryPage.vue'
import { useMe } from './access/useMe'

/** Nothing is asked, and nothing shown, before it is known who looks. */
const frame = import('./frame/MainFrame.vue')
const MainFrame = defineAsyncComponent(() => frame)
const { me, been, load, failure } = useMe()
onMounted(load)
</script>

<template>
  <!-- who has to sign in again finds what was entered as it was -->
  <MainFrame v-if="been" :inert="!me?.name" />
  <EntryPage v-if="me && !me.name" class="over" />
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
