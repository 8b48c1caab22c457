<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { many, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useOverWindow } from '@/window/useOverWindow'

/** What went wrong in the window, as the engine's own log tells it: how often of which kind, and the last ones. */
const props = defineProps<{ instance: number }>()
const now = useClock()
const { answer, failure } = useOverWindow(
  () => props.instance,
  (id, from, to, signal) => api.log(id, from, to, signal),
  20_000,
)
const log = computed(() => answer.value?.told)
const sum = computed(() => log.value?.errors.reduce((all, one) => all + one.count, 0) ?? 0)
</script>

<template>
  <section aria-label="Errors of its log" class="log">
    <h2>Errors of its log</h2>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <template v-else-if="log">
      <p v-if="log.why && !log.read" class="soft">Not read: {{ log.why }}</p>
      <p v-else-if="!sum" class="soft">None in this window.</p>
      <template v-else>
        <p>
          {{ many(sum, 'error') }} in this window:
          <span v-for="(one, i) in log.errors" :key="one.state" class="class"
            ><template v-if="i">, </template>{{ one.count }} × {{ one.words }} ({{
              one.state
            }})</span
          >
        </p>
        <p v-if="log.left" class="warning">
          ◣ More was logged than is read at once: some lines are left out.
        </p>
        <table class="rows">
          <thead>
            <tr>
              <th>When</th>
              <th>What</th>
              <th>User · program</th>
              <th>Statement</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(line, i) in log.lines" :key="i">
              <th scope="row" class="when">{{ momentInWords(line.at, now) }}</th>
              <td>{{ line.message }}</td>
              <td>{{ [line.user, line.program].filter(Boolean).join(' · ') }}</td>
              <td>
                <code>{{ line.text }}</code>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
    </template>
  </section>
</template>

<style scoped>
.log {
  padding-top: 16px;
}
h2 {
  padding-bottom: 4px;
  font-size: 14px;
  font-weight: 600;
}
.when {
  white-space: nowrap;
}
code {
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
</style>
