<script setup lang="ts">
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { onLive } from '@/live/useLive'
import { momentInWords } from '@/text/format'
import { kindInWords, stateInWords, toInWords } from '@/telling/words'
import { useLink } from '@/window/useLink'

/** Who was told of an alert, who was not, and by which rule. */
const props = defineProps<{ id: number; now: number }>()
const { link } = useLink()
const { answer: told, again } = useAnswer(
  () => props.id,
  (id, signal) => api.toldOf(id, signal),
)
onLive({ changed: (what) => (what === 'messages' || what === 'alerts') && void again() })
</script>

<template>
  <div v-if="told" class="card">
    <h3>
      Who was told
      <RouterLink class="link" :to="link('/telling')">all messages</RouterLink>
    </h3>
    <p v-if="told.kept" class="soft">Nobody is told just now: {{ told.kept }}.</p>
    <ul class="who">
      <li v-for="message in told.messages" :key="message.key">
        <strong>{{ message.recipient }}</strong> {{ kindInWords(message.kind) }}, by
        {{ message.channel }}, {{ momentInWords(message.lastAt ?? message.at, now) }}:
        <span :class="{ warning: message.state === 'failed' }">{{ stateInWords(message) }}</span>
      </li>
      <li v-for="(step, i) in told.steps.filter((s) => s.why)" :key="i" class="soft">
        {{ step.who || toInWords(step.to) }}: not told, {{ step.why }}
      </li>
    </ul>
    <p v-if="told.rule" class="soft">By the rule “{{ told.rule }}”.</p>
    <p v-else class="soft">No rule is for it.</p>
  </div>
</template>

<style scoped>
.who {
  list-style: none;
}
.who li {
  padding: 2px 0;
  overflow-wrap: anywhere;
}
</style>
