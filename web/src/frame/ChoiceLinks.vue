<script setup lang="ts" generic="K extends string">
/** Words in a row, of which one is chosen. */
defineProps<{ choices: readonly { key: K; words: string }[] }>()
const chosen = defineModel<K>({ required: true })
</script>

<template>
  <button
    v-for="one in choices"
    :key="one.key"
    class="link"
    type="button"
    :aria-pressed="chosen === one.key"
    @click="chosen = one.key"
  >
    {{ one.words }}
  </button>
</template>

<style scoped>
[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
}
</style>
