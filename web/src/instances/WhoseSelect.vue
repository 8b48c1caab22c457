<script setup lang="ts">
import '@/look/choices'
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { useInstances } from './useInstances'

/** Of which instances: all, a group, a site, or one; as the server wants to be told. */
const of = defineModel<string>({ required: true })
const { instances } = useInstances()
const named = (all: string[], what: string) =>
  [...new Set(all)]
    .filter(Boolean)
    .sort()
    .map((name) => ({ value: `${what}:${name}`, label: `the ${what} ${name}` }))
const choices = computed(() => [
  { value: '', label: 'everything' },
  ...named(
    instances.value.map((i) => i.group),
    'group',
  ),
  ...named(
    instances.value.map((i) => i.site),
    'site',
  ),
  ...instances.value.map((i) => ({ value: `${i.id}`, label: i.name })),
])
</script>

<template>
  <label
    ><span class="soft">of</span>
    <ElSelect
      v-model="of"
      filterable
      placeholder="everything"
      aria-label="of"
      size="small"
      style="width: 180px"
    >
      <ElOption v-for="c in choices" :key="c.value" :value="c.value" :label="c.label" />
    </ElSelect>
  </label>
</template>

<style scoped>
label {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
</style>
