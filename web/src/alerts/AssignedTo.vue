<script setup lang="ts">
import { computed } from 'vue'
import { useMe } from '@/access/useMe'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import type { Alert } from '@/api/types'

/** Whose alert it is to look after. */
const props = defineProps<{ alert: Alert }>()
const emit = defineEmits<{ done: [] }>()
const { may, name } = useMe()
const { answer: known, failure } = useAnswer(
  () => (may('act') ? props.alert.id : undefined),
  (id, signal) => api.assignable(id, signal),
)
/** Who has it stays among them, whatever they may by now. */
const names = computed(() =>
  [...new Set([...(known.value ?? []), props.alert.assigned])].filter(Boolean),
)

const { refused, attempt } = useAttempt(() => emit('done'))
const assign = (to: string) => attempt(() => api.assign(props.alert.id, to))
</script>

<template>
  <p v-if="may('act')" class="assigned">
    <label
      >Looked after by
      <select
        :value="alert.assigned"
        aria-label="Looked after by"
        @change="assign(($event.target as HTMLSelectElement).value)"
      >
        <option value="">nobody yet</option>
        <option v-for="one in names" :key="one">{{ one }}</option>
      </select></label
    >
    <button
      v-if="alert.assigned !== name && names.includes(name)"
      class="link"
      type="button"
      @click="assign(name)"
    >
      I do
    </button>
    <span v-if="failure || refused" class="warning" role="alert">◣ {{ refused || failure }}</span>
  </p>
  <p v-else-if="alert.assigned" class="soft">Looked after by {{ alert.assigned }}.</p>
</template>

<style scoped>
.assigned {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  color: var(--ink-soft);
}
</style>
