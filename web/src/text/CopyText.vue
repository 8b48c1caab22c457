<script setup lang="ts">
import { ref } from 'vue'

/** A text to be taken along as it stands. */
const props = defineProps<{
  text: string
  what: string
  /** Words, not a command. */
  plain?: boolean
}>()
const copied = ref('')

async function copy() {
  await navigator.clipboard.writeText(props.text)
  copied.value = props.text
}
</script>

<template>
  <div class="copy">
    <p v-if="plain" class="words">{{ text }}</p>
    <pre v-else>{{ text }}</pre>
    <button class="link" type="button" @click="copy">
      {{ copied === text ? 'copied' : `copy the ${what}` }}
    </button>
  </div>
</template>

<style scoped>
.copy {
  display: flex;
  align-items: flex-start;
  gap: 12px;
  margin: 4px 0;
}
.words {
  flex: 1;
  font-size: 15px;
}
pre {
  flex: 1;
  overflow-x: auto;
  padding: 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
button {
  flex: none;
  padding-top: 8px;
}
</style>
