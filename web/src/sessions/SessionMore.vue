<script setup lang="ts">
import { computed } from 'vue'
import type { Session } from '@/api/types'
import CopyText from '@/text/CopyText.vue'
import { clockWithSeconds, day, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { age, asText, command, waitKind } from './words'

/** All that is known of a session at a moment, and what can be done about it over there. */
const props = defineProps<{ session: Session; at: number; past: boolean }>()
const emit = defineEmits<{ behind: [] }>()
const now = useClock()
const when = computed(() => momentInWords(props.at, now.value))
const facts = computed(() => {
  const s = props.session
  return [
    ['kind', s.kind],
    ['database', s.database],
    ['client', s.client || "the engine's own machine"],
    ['module', s.module],
    ['began', `${day(s.started)} ${clockWithSeconds(s.started)}`],
    ['state for', age(s.stateMs)],
    [
      s.last ? 'last statement began' : 'statement for',
      s.last ? `${age(s.statementMs)} ago` : age(s.statementMs),
    ],
    ['in transaction', age(s.transactionMs)],
    ['holds', s.holds.join(', ') || (s.transactionMs === null ? '' : 'nothing that is told')],
    ['waits, as the engine says', [s.waitKind, s.waitsFor].filter(Boolean).join(': ')],
    ['that is', s.waitKind && waitKind(s.waitKind)],
    ['helped by', s.workers ? `${s.workers} parallel workers` : ''],
    ['fingerprint', s.statement],
  ].filter(([, value]) => value)
})
</script>

<template>
  <dl>
    <div v-for="[name, value] in facts" :key="name">
      <dt class="soft">{{ name }}</dt>
      <dd>{{ value }}</dd>
    </div>
  </dl>
  <pre v-if="session.text">{{ session.last ? 'last: ' : '' }}{{ session.text }}</pre>
  <p v-if="session.behind">
    <button type="button" class="link" @click="emit('behind')">
      only those that wait for it ({{ session.behind }} directly)
    </button>
  </p>
  <p v-if="past" class="soft">That was at {{ when }}: it may be gone.</p>
  <CopyText v-for="one in command(session)" :key="one.what" :what="one.what" :text="one.text" />
  <CopyText what="session as text" :text="asText(session, when)" />
</template>

<style scoped>
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
  margin: 0 0 6px;
}
dt {
  font-size: 12px;
}
dd {
  margin: 0;
}
pre {
  padding: 6px 0;
  white-space: pre-wrap;
}
</style>
