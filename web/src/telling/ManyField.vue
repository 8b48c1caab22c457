<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'

/** Some of what there is; none stands for all. */
const picked = defineModel<string[]>({ required: true })
defineProps<{ of: string; choices: [string, string][] }>()
</script>

<template>
  <label class="many"
    ><span>{{ of }}</span>
    <ElSelect
      v-model="picked"
      multiple
      filterable
      allow-create
      default-first-option
      collapse-tags
      collapse-tags-tooltip
      placeholder="any"
      :aria-label="of"
    >
      <ElOption v-for="[value, words] in choices" :key="value" :value="value" :label="words" />
    </ElSelect>
  </label>
</template>

<style scoped>
.many {
  flex: 1 1 180px;
  color: var(--ink-soft);
  font-size: 12px;
}
</style>
