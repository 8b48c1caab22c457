<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Alert } from '@/api/types'

/** Switches the limit of an alert off on its instance alone, in two steps: reason and end first, then sure. */
const props = defineProps<{ alert: Alert }>()
const emit = defineEmits<{ done: [] }>()

const open = ref(false)
const reason = ref('')
const inAWeek = new Date(Date.now() + 7 * 86_400_000)
const until = ref(
  new Date(inAWeek.getTime() - inAWeek.getTimezoneOffset() * 60_000).toISOString().slice(0, 16),
)
const sure = ref(false)
const failure = ref('')
const ready = computed(() => reason.value.trim() !== '' && Date.parse(until.value) > Date.now())

async function off() {
  const a = props.alert
  const scope = { level: 'instance', of: `${a.instance}` }
  const body = {
    counter: a.counter,
    labels: a.labels,
    scope,
    condition: a.condition,
    warning: null,
    critical: null,
    hold: null,
    criticalHold: null,
    clear: { number: null, seconds: null },
    criticalClear: null,
    against: null,
    on: false,
    offReason: reason.value,
    offUntil: Date.parse(until.value),
  }
  try {
    const before = (await api.limits()).find(
      (l) =>
        l.counter === a.counter &&
        l.condition === a.condition &&
        l.scope.level === 'instance' &&
        l.scope.of === scope.of &&
        JSON.stringify(l.labels) === JSON.stringify(a.labels),
    )
    if (before) {
      await api.changeLimit(before.id, {
        ...before,
        on: false,
        offReason: body.offReason,
        offUntil: body.offUntil,
      })
    } else {
      await api.addLimit(body)
    }
    open.value = false
    emit('done')
  } catch (e) {
    failure.value = inWords(e)
  }
}
</script>

<template>
  <button v-if="!open" v-may="'shape'" class="link" type="button" @click="open = true">
    Switch it off on {{ alert.instanceName }} …
  </button>
  <form v-else class="off" @submit.prevent="sure ? off() : (sure = true)">
    <label>Why<ElInput v-model="reason" aria-label="Why it is switched off" autofocus /></label>
    <label
      >Until<input v-model="until" type="datetime-local" aria-label="Until when it is off"
    /></label>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <ElButton native-type="submit" :disabled="!ready" :type="sure ? 'danger' : 'default'">{{
      sure ? 'Sure: no alert of this limit here until then' : 'Switch it off …'
    }}</ElButton>
    <ElButton @click="open = false">Keep it</ElButton>
  </form>
</template>

<style scoped>
.off {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px;
  padding-top: 8px;
}
label {
  color: var(--ink-soft);
  font-size: 12px;
}
</style>
