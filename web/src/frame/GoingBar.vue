<script setup lang="ts">
import { useGoing } from './useGoing'

/** What is about to be removed, and how to keep it. */
const { going, go, keep, secondsLeft } = useGoing()
</script>

<template>
  <ul v-if="going.length" class="going" aria-label="About to be removed">
    <li v-for="one in going" :key="one.key">
      <template v-if="one.failure">
        <span class="warning" role="alert">◣ {{ one.words }}: {{ one.failure }}</span>
        <button type="button" class="link" @click="go(one.key)">try again</button>
        <button type="button" class="link" @click="keep(one.key)">keep it</button>
      </template>
      <span v-else-if="one.goes" role="status">{{ one.words }} …</span>
      <template v-else>
        <span role="status">{{ one.words }}</span>
        <span class="soft" aria-hidden="true">in {{ secondsLeft(one) }} s</span>
        <button type="button" class="link" @click="keep(one.key)">undo</button>
        <button type="button" class="link" @click="go(one.key)">now</button>
      </template>
    </li>
  </ul>
</template>

<style scoped>
.going {
  position: fixed;
  z-index: 3000;
  bottom: 88px;
  left: 50%;
  padding: 8px 16px;
  transform: translateX(-50%);
  background: var(--card);
  border: 1px solid var(--field);
  border-radius: 4px;
  box-shadow: var(--floats);
  list-style: none;
}
li {
  display: flex;
  gap: 16px;
  align-items: center;
  min-height: 28px;
}
</style>
