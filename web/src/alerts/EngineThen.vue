<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { waitKind } from '@/sessions/words'
import { seconds } from '@/text/format'
import { standing } from '@/window/useWindow'
import { useLink } from '@/window/useLink'
import { firstMinutes, until } from './story'

/** The first minutes of an alert of an engine in small: what its sessions waited for, and which statements took the time. */
const props = defineProps<{ alert: Alert; now: number }>()
const MOST = 4
/** Fewer are none on average. */
const LEAST = 0.05
const { link } = useLink()
const { answer, failure } = useAnswer(
  () => firstMinutes(props.alert),
  async ({ from, to }, signal) => {
    const [busy, statements] = await Promise.all([
      api.busy(props.alert.instance, 'wait', from, to, 1, signal),
      api.statements(props.alert.instance, { order: 'time', by: 'statement', from, to }, signal),
    ])
    return { busy, statements }
  },
  { follows: () => until(firstMinutes(props.alert).to, props.now) },
)
const there = computed(() => {
  const { from, to } = firstMinutes(props.alert)
  return { pick: props.alert.instance, ...standing(from, to) }
})
const waits = computed(() =>
  (answer.value?.busy.parts ?? []).flatMap(({ name, mean }) => {
    const sessions = mean[0]
    const words = name === 'no wait reported' || name.startsWith('waits') ? name : waitKind(name)
    return sessions && sessions >= LEAST ? [{ words, sessions }] : []
  }),
)
const statements = computed(() =>
  (answer.value?.statements.rows ?? []).filter((row) => row.top && row.timePerSecond > 0),
)
</script>

<template>
  <div class="card">
    <h3>
      Sessions in its first minutes
      <RouterLink class="link" :to="link('/sessions', there)">all of them</RouterLink>
    </h3>
    <p v-if="failure" class="soft">{{ failure }}</p>
    <p v-else-if="!answer" class="soft">Looking …</p>
    <p v-else-if="!waits.length" class="soft">Nobody ran anything, or nothing was sampled then.</p>
    <table v-else aria-label="Sessions in its first minutes">
      <tbody>
        <tr v-for="one in waits.slice(0, MOST)" :key="one.words">
          <td>{{ one.words }}</td>
          <td class="n">{{ one.sessions.toFixed(1) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <div v-if="statements.length" class="card">
    <h3>
      Statements in its first minutes
      <RouterLink class="link" :to="link('/statements', there)">all of them</RouterLink>
    </h3>
    <table aria-label="Statements in its first minutes">
      <tbody>
        <tr v-for="row in statements.slice(0, MOST)" :key="row.fingerprint">
          <td class="name" :title="row.name">{{ row.name }}</td>
          <td class="n">{{ Math.round(row.share * 100) }} %</td>
          <td class="n">{{ row.mean === null ? '' : seconds(row.mean) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.name {
  max-width: 0;
  width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
