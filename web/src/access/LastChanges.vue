<script setup lang="ts">
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { differences } from './differences'

/** Who changed this last, and what; whole at a click. */
const props = defineProps<{
  what: 'limit' | 'marker' | 'recipe'
  of: string | number
  /** Another value each time it may have been changed. */
  follows?: unknown
}>()
const now = useClock()
const { answer } = useAnswer(
  () => `${props.what} ${props.of}`,
  (_, signal) => api.changesOf(props.what, `${props.of}`, signal),
  { follows: () => props.follows },
)
</script>

<template>
  <details v-if="answer?.length" class="soft">
    <summary>last changed {{ momentInWords(answer[0]!.at, now) }} by {{ answer[0]!.who }}</summary>
    <ul>
      <li v-for="(one, i) in answer" :key="i">
        {{ momentInWords(one.at, now) }} {{ one.who }}
        <span v-for="d in differences(one.before, one.after)" :key="d.field" class="field"
          >{{ d.field }} {{ d.words }}</span
        >
      </li>
    </ul>
  </details>
</template>

<style scoped>
li {
  padding: 2px 0 2px 12px;
  list-style: none;
}
.field {
  display: block;
  padding-left: 12px;
  overflow-wrap: anywhere;
}
</style>
