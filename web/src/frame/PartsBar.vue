<script setup lang="ts" generic="K extends string">
import ChoiceLinks from './ChoiceLinks.vue'

/** The parts of a page, of which one is shown. */
defineProps<{ parts: { key: K; words: string }[] }>()
const part = defineModel<K>({ required: true })
</script>

<template>
  <p class="parts">
    <ChoiceLinks v-model="part" :choices="parts" />
  </p>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  padding: 4px 0 12px;
}
</style>
