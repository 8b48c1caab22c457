<script setup lang="ts">
import { ElButton } from 'element-plus'
import { ref, watch } from 'vue'
import { api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import type { TellingTrial } from '@/api/types'
import { many, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { usePlan } from './usePlan'

/** What the plan, as it is being changed, would have sent over the last four weeks. */
const WEEKS = 4
const SHOWN = 30
const { draft } = usePlan()
const now = useClock()
const trial = ref<TellingTrial>()
const asking = ref(false)
const { refused, attempt } = useAttempt()
watch(draft, () => (trial.value = undefined), { deep: true })

async function tryIt() {
  const plan = draft.value
  if (!plan) return
  asking.value = true
  await attempt(async () => {
    const told = await api.tryTelling(plan, WEEKS)
    if (draft.value === plan) trial.value = told
  })
  asking.value = false
}
</script>

<template>
  <div class="trial">
    <ElButton :loading="asking" @click="tryIt">Try it on the last four weeks</ElButton>
    <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
    <section v-if="trial" aria-label="Trial">
      <p>
        The last four weeks had {{ many(trial.alerts, 'alert') }}. This would have sent
        <strong>{{ many(trial.wake, 'message') }} at once</strong>, {{ trial.night }} of them by
        night, and {{ many(trial.morning, 'report') }} of the night.
      </p>
      <table v-if="trial.recipients.length" class="rows counts" aria-label="By recipient">
        <thead>
          <tr>
            <th>To</th>
            <th class="n">At once</th>
            <th class="n">By night</th>
            <th class="n">Reports</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in trial.recipients" :key="one.recipient">
            <th scope="row">{{ one.recipient }}</th>
            <td class="n">{{ one.wake }}</td>
            <td class="n">{{ one.night }}</td>
            <td class="n">{{ one.morning }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="soft">Nobody would have been told: has anybody the duty that is told?</p>
      <ul class="latest">
        <li v-for="one in trial.latest.slice(0, SHOWN)" :key="`${one.key} ${one.at}`">
          <span class="soft">{{ momentInWords(one.at, now) }} {{ one.recipient }}</span>
          {{ one.subject }}
        </li>
      </ul>
      <p v-if="trial.latest.length > SHOWN" class="soft">
        and {{ trial.wake + trial.morning - SHOWN }} before
      </p>
    </section>
  </div>
</template>

<style scoped>
.trial {
  padding: 16px 0;
}
.counts {
  width: auto;
  min-width: 360px;
}
.n {
  text-align: right;
}
.latest {
  padding: 8px 0;
  list-style: none;
}
</style>
