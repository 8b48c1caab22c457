<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import type { EngineLog } from '@/api/types'
import { many, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useOverWindow } from '@/window/useOverWindow'

/** Deadlocks of the window: how many the engine counted, and who was in them as far as its log says so. */
const props = defineProps<{ instance: number; counter: number | undefined }>()
const now = useClock()
const { answer, failure } = useOverWindow(
  () => ({ id: props.instance, counter: props.counter }),
  async ({ id, counter }, from, to, signal) => {
    const [log, figures] = await Promise.all([
      api.log(id, from, to, signal),
      counter === undefined ? [] : api.figures([counter], from, to, signal),
    ])
    return { log, counted: figures[0]?.sum ?? null }
  },
  20_000,
)
type Deadlock = EngineLog['deadlocks'][number]
const told = computed(() => answer.value?.told)
const sum = computed(() => {
  const t = told.value
  if (!t) return ''
  const named = t.log.deadlocks.length
  // counted when it was read, logged when it happened: at an edge one may be in one of them only
  const count = Math.max(Math.round(t.counted ?? 0), named)
  if (!count) return 'No deadlock in this window.'
  if (t.log.read && named) return `${many(count, 'deadlock')} in this window.`
  return `${many(count, 'deadlock')} in this window; who was in ${count === 1 ? 'it' : 'them'} is not known.`
})
const what = (deadlock: Deadlock, pid: number) =>
  pid === deadlock.cancelled
    ? `${[deadlock.user, deadlock.program].filter(Boolean).join(' · ')}, cancelled`
    : 'went on'
</script>

<template>
  <section aria-label="Deadlocks" class="deadlocks">
    <h2>Deadlocks</h2>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <template v-else-if="told">
      <p>{{ sum }}</p>
      <p v-if="told.log.why" class="soft">Participants are not readable: {{ told.log.why }}</p>
      <article v-for="deadlock in told.log.deadlocks" :key="deadlock.at">
        <strong>{{ momentInWords(deadlock.at, now) }}</strong>
        <p v-for="party in deadlock.parties" :key="party.pid">
          {{ party.pid }} ({{ what(deadlock, party.pid) }}) waited for {{ party.blocker }}:
          {{ party.wants }}
          <code v-if="party.text">{{ party.text }}</code>
        </p>
      </article>
    </template>
  </section>
</template>

<style scoped>
.deadlocks {
  padding: 10px 0;
}
h2 {
  font-size: 14px;
  font-weight: 600;
}
article {
  padding: 8px 12px;
  margin-top: 6px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
code {
  display: block;
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
</style>
