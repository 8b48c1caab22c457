<script setup lang="ts">
import { ElButton } from 'element-plus'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { usePlan } from './usePlan'

/** By which others notice when Jam Jar itself is gone. */
const AGAIN_MS = 15_000
const { draft, names } = usePlan()
const now = useClock()
const { answer: states } = useAnswer(
  () => 'heartbeats',
  (_, signal) => api.heartbeats(signal),
  { follows: () => Math.floor(now.value / AGAIN_MS) },
)
const stateOf = (channel: string, address: string) =>
  states.value?.find((one) => one.channel === channel && one.address === address)
</script>

<template>
  <template v-if="draft">
    <h2>Heartbeats</h2>
    <p class="soft">
      Jam Jar tells at an interval that it is there, and how many it reads: who misses it knows that
      nobody watches.
    </p>
    <p v-for="(one, i) in draft.heartbeats" :key="i" class="way">
      <label
        >by
        <select v-model="one.channel" aria-label="Channel of the heartbeat">
          <option v-for="name in names" :key="name">{{ name }}</option>
        </select></label
      >
      <label
        >to <input v-model="one.address" aria-label="Address of the heartbeat" size="28"
      /></label>
      <label
        >every
        <input
          v-model.number="one.everyMinutes"
          type="number"
          min="1"
          max="1440"
          class="short"
          aria-label="Minutes between heartbeats"
        />
        min</label
      >
      <span v-if="stateOf(one.channel, one.address)?.at" class="soft"
        >last {{ momentInWords(stateOf(one.channel, one.address)?.at ?? 0, now) }}:
        {{ stateOf(one.channel, one.address)?.answer || 'on its way' }}</span
      >
      <button type="button" class="link" @click="draft.heartbeats.splice(i, 1)">remove</button>
    </p>
    <ElButton
      :disabled="!names.length"
      @click="draft.heartbeats.push({ channel: names[0] ?? '', address: '', everyMinutes: 5 })"
      >Add a heartbeat</ElButton
    >
  </template>
</template>

<style scoped src="./plan.css"></style>
