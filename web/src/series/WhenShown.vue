<script setup lang="ts">
import { computed } from 'vue'
import { useMoment, usePinned } from '@/chart/useMoment'
import { momentInWords, span } from '@/text/format'
import { useOver } from './useThen'
import { useClock } from '@/window/useClock'

/** Of when the numbers of a page are, where that is not now. */
const props = defineProps<{
  when: number | undefined
  /** Whether the mean and greatest of the window can stand beside them. */
  figures?: boolean
}>()
const now = useClock()
const moment = useMoment()
const pinned = usePinned()
const over = useOver()
const words = computed(() =>
  props.when === undefined
    ? ''
    : `${momentInWords(props.when, now.value)}, ${span(now.value - props.when)} ago`,
)
function unpin() {
  pinned.value = undefined
  moment.value = undefined
}
</script>

<template>
  <p class="when" :class="{ soft: when === undefined }">
    <template v-if="when === undefined">The numbers are those of now.</template>
    <template v-else
      >The numbers are those of <strong>{{ words }}</strong>{{ pinned ? ', pinned' : '' }}.
      <button v-if="pinned" type="button" class="link" @click="unpin">let go</button></template
    >
    {{ ' ' }}
    <button
      v-if="figures"
      type="button"
      class="link"
      :aria-pressed="over === '1'"
      @click="over = over ? '' : '1'"
    >
      {{ over ? 'without mean and greatest' : 'with mean and greatest of the window' }}
    </button>
  </p>
</template>

<style scoped>
.when {
  padding-bottom: 8px;
  font-size: 12.5px;
}
</style>
