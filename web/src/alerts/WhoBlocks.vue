<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { age, command, whoIs } from '@/sessions/words'
import CopyText from '@/text/CopyText.vue'
import { many, momentInWords } from '@/text/format'

/** Who kept others waiting while an alert of an engine was open, with the command that ends it; nothing where nobody did. */
const props = defineProps<{ alert: Alert; now: number }>()
/** By then who blocks is not only starting to. */
const SOON = 60_000
const LIVE = 10_000

const ended = computed(() => props.alert.ended !== null)
const at = computed(() =>
  ended.value ? Math.min(props.alert.since + SOON, props.alert.ended ?? Infinity) : undefined,
)
const { answer: locks } = useAnswer(
  () => `${props.alert.instance} ${at.value}`,
  (_, signal) => api.locks(props.alert.instance, at.value, signal),
  { follows: () => (ended.value ? 0 : Math.floor(props.now / LIVE)) },
)
const root = computed(() => locks.value?.roots[0])
const first = computed(() => (root.value?.session ? command(root.value.session).at(-1) : undefined))
</script>

<template>
  <div v-if="root" class="card who">
    <p>
      <strong>{{ root.pid }} {{ root.session ? whoIs(root.session) : '' }}</strong
      ><template v-if="root.session"
        >, {{ root.session.state }} for {{ age(root.session.stateMs) }}</template
      >; {{ many(root.onlyBecause, 'session') }}
      {{ root.onlyBecause === 1 ? 'waits' : 'wait' }} only because of it
      <span v-if="at" class="soft">({{ momentInWords(at, now) }}: it may be gone)</span>
    </p>
    <CopyText v-if="first" :what="first.what" :text="first.text" />
  </div>
</template>

<style scoped>
.who {
  display: flex;
  flex-direction: column;
  gap: 4px;
}
</style>
