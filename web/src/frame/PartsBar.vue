<script setup lang="ts" generic="K extends string">
/** The parts of a page, of which one is shown. */
defineProps<{ parts: { key: K; words: string }[] }>()
const part = defineModel<K>({ required: true })
</script>

<template>
  <p class="parts">
    <button
      v-for="one in parts"
      :key="one.key"
      class="link"
      type="button"
      :aria-pressed="part === one.key"
      @click="part = one.key"
    >
      {{ one.words }}
    </button>
  </p>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  padding: 4px 0 12px;
}
.parts [aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
}
</style>
