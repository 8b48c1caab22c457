<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useOverWindow } from '@/window/useOverWindow'
import { checkInWords } from './check'

/** Whether the connections of a pool come back, over the window: with the law behind a click. */
const props = defineProps<{ instance: number; pool: Record<string, string>; name: string }>()
const { answer } = useOverWindow(
  () => props.instance,
  (id, from, to, signal) => api.poolChecks(id, from, to, signal),
  20_000,
)
const same = (labels: Record<string, string>) =>
  JSON.stringify(labels) === JSON.stringify(props.pool)
const check = computed(() => answer.value?.told.find((one) => same(one.labels)))
const off = computed(() =>
  ['not_coming_back', 'held_longer', 'does_not_fit'].includes(check.value?.verdict ?? ''),
)
</script>

<template>
  <details v-if="check" class="check">
    <summary>
      <span class="soft">{{ name }}: </span>
      <component :is="off ? 'strong' : 'span'" :class="{ soft: !off }">{{
        checkInWords(check)
      }}</component>
    </summary>
    <p class="soft">
      On average as many are in use as are handed out in a second times the seconds that each is
      held (Little’s law), over the window, five minutes at least. What differs by more than 15 %,
      and by more than one connection, does not fit: more in use than that are not given back. Held
      longer is four spreads or more above what is normal for the hold time.
    </p>
  </details>
</template>

<style scoped>
.check {
  padding: 6px 0;
}
summary {
  min-height: 24px;
  cursor: pointer;
}
</style>
