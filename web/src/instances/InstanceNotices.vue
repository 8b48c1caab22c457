<script setup lang="ts">
import type { Instance } from '@/api/types'
import { isPaused } from '@/shelf/order'
import { isSilent } from '@/shelf/useShelf'
import { clock, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import LastChecked from './LastChecked.vue'
import { useLink } from '@/window/useLink'

/** What one must know of the picked before looking at their charts: silent, paused, or waiting for a restart. */
defineProps<{ instances: Instance[] }>()
const now = useClock()
const { link } = useLink()
</script>

<template>
  <div
    v-for="instance in instances.filter(isSilent)"
    :key="instance.id"
    class="notice"
    role="status"
  >
    <p>
      <strong class="silent"
        >◌ {{ instance.name }} is
        {{ instance.state.state === 'failing' ? 'not read' : instance.state.state }}</strong
      >
      since {{ clock(instance.state.since) }} ({{ span(now - instance.state.since) }}):
      {{ instance.state.words }}
    </p>
    <p class="soft">{{ instance.state.advice }}</p>
    <LastChecked :id="instance.id" :since="instance.state.since" />
  </div>
  <p v-for="instance in instances.filter(isPaused)" :key="instance.id" class="notice" role="status">
    ‖ {{ instance.name }} is paused: nothing is read.
    <RouterLink class="link" :to="link('/estate')">Resume it on the estate page</RouterLink>
  </p>
  <p
    v-for="instance in instances.filter((i) => i.state.restart)"
    :key="`restart ${instance.id}`"
    class="notice warning"
    role="status"
  >
    ↻ {{ instance.name }} waits for a restart: {{ instance.state.restart }} changed there, but it
    still runs with the old values.
  </p>
</template>

<style scoped>
.notice {
  margin-bottom: 12px;
  padding: 8px 12px;
  background: var(--card);
  border: 1px solid var(--line);
  border-left: 4px solid var(--slate);
  border-radius: 4px;
}
.notice.warning {
  border-left-color: var(--apricot);
}
</style>
