<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { useInstances } from '@/instances/useInstances'
import { partsOf } from './scopes'

/** Of which part of the estate somebody is to see and change something. */
const scope = defineModel<string[]>({ required: true })
const { of } = defineProps<{ of: string; disabled?: boolean }>()
const { instances } = useInstances()
const parts = computed(() => partsOf(instances.value, scope.value))
</script>

<template>
  <ElSelect
    v-model="scope"
    multiple
    filterable
    collapse-tags
    :max-collapse-tags="2"
    collapse-tags-tooltip
    :disabled="disabled"
    placeholder="all instances"
    :aria-label="`Scope of ${of}`"
  >
    <ElOption v-for="one in parts" :key="one.value" :value="one.value" :label="one.words" />
  </ElSelect>
</template>
