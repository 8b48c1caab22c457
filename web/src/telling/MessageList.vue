<script setup lang="ts">
import { computed, ref } from 'vue'
import { useMe } from '@/access/useMe'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { onLive } from '@/live/useLive'
import { clock, many, momentInWords } from '@/text/format'
import { useLink } from '@/window/useLink'
import { useWindow } from '@/window/useWindow'
import OnDutyNow from './OnDutyNow.vue'
import { stateInWords } from './words'

/** Every message: to whom, by what, when, and what was answered. */
const DAYS = 7
const window = useWindow()
const { link } = useLink()
const { may, whole } = useMe()
const unfolded = ref<string>()
const {
  answer: messages,
  failure,
  again,
} = useAnswer(
  () => 'messages',
  (_, signal) => {
    const live = window.live.value
    const to = live ? Date.now() : window.to.value
    return api.messages(live ? to - DAYS * 86_400_000 : window.from.value, to, signal)
  },
  { instead: () => (window.live.value ? 'live' : `${window.from.value} ${window.to.value}`) },
)
const { answer: waiting, again: waitingAgain } = useAnswer(
  () => (may('act') && whole() ? 'waiting' : undefined),
  (_, signal) => api.messagesWaiting(signal),
)
onLive({
  changed: (what) => {
    if (what === 'messages') void again()
    if (what === 'alerts') void waitingAgain()
  },
})
const failed = computed(() => (messages.value ?? []).filter((one) => one.state === 'failed').length)
const SIGN: Record<string, string> = { critical: '◆', warning: '◣' }
const picture = (key: string) => `/api/messages/picture?key=${encodeURIComponent(key)}`
const hasPicture = (kind: string) => kind === 'rise' || kind === 'worse'
const broken = ref(new Set<string>())
</script>

<template>
  <OnDutyNow />
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <details v-for="one in waiting" :key="one.recipient" class="morning">
    <summary>
      {{ many(one.lines.length, 'alert') }} for {{ one.recipient }} with the report of the night,
      {{ clock(one.dueAt) }}
    </summary>
    <ul>
      <li v-for="(line, i) in one.lines" :key="i">
        <RouterLink class="link" :to="link('/alerts', { rose: one.alerts[i] })">{{
          line
        }}</RouterLink>
      </li>
    </ul>
  </details>
  <p class="soft">
    Messages of {{ window.live.value ? `the last ${DAYS} days` : 'the window'
    }}<template v-if="failed">, {{ failed }} failed</template>.
  </p>
  <p v-if="messages && !messages.length" class="soft">
    Nobody was told of anything in this time. Who is told is set under “who is told of what”.
  </p>
  <table v-else-if="messages" class="rows" aria-label="Messages">
    <thead>
      <tr>
        <th class="when">When</th>
        <th class="who">To</th>
        <th>What</th>
        <th class="state">What became of it</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in messages" :key="one.key">
        <td>{{ momentInWords(one.at, window.now.value) }}</td>
        <td>
          {{ one.recipient }} <span class="soft">{{ one.channel }}</span>
        </td>
        <td>
          <button
            type="button"
            class="link subject"
            :aria-expanded="unfolded === one.key"
            @click="unfolded = unfolded === one.key ? undefined : one.key"
          >
            <span v-if="one.kind !== 'over'" :class="one.severity">{{ SIGN[one.severity] }}</span>
            {{ one.subject }}
          </button>
          <div v-if="unfolded === one.key" class="body">
            <pre>{{ one.body }}</pre>
            <img
              v-if="hasPicture(one.kind) && !broken.has(one.key)"
              :src="picture(one.key)"
              :alt="`Chart: ${one.subject}`"
              @error="broken = new Set(broken).add(one.key)"
            />
            <p>
              <RouterLink
                v-if="one.alerts.length === 1"
                class="link"
                :to="link('/alerts', { rose: one.alerts[0] })"
                >the alert</RouterLink
              >
              <span class="soft"> to {{ one.address || one.channel }}, {{ one.key }}</span>
            </p>
          </div>
        </td>
        <td :class="{ warning: one.state !== 'sent' }">
          {{ stateInWords(one) }}
          <span v-if="one.state === 'sent'" class="soft">{{ one.answer }}</span>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-else class="soft">Fetching the messages …</p>
</template>

<style scoped>
table {
  table-layout: fixed;
}
td {
  overflow-wrap: anywhere;
  vertical-align: top;
}
.when {
  width: 132px;
}
.who {
  width: 150px;
}
.state {
  width: 230px;
}
.subject {
  text-align: left;
}
.body {
  padding: 8px 0;
}
pre {
  white-space: pre-wrap;
  font: inherit;
}
img {
  display: block;
  width: 600px;
  max-width: 100%;
  margin: 8px 0;
  border: 1px solid var(--line);
}
.morning {
  padding: 8px 12px;
  margin-bottom: 8px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.morning ul {
  padding-left: 20px;
}
</style>
