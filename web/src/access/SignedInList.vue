<script setup lang="ts">
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import { momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { browserInWords } from './browsers'

/** The browsers that one is signed in with: each can be signed out. */
const now = useClock()
const {
  answer: browsers,
  failure,
  again,
} = useAnswer(
  () => true,
  (_, signal) => api.signedIn(signal),
)
const { refused, attempt } = useAttempt(again)
</script>

<template>
  <p v-if="failure || refused" class="warning" role="alert">◣ {{ refused || failure }}</p>
  <table v-if="browsers" class="rows" aria-label="Where you are signed in">
    <thead>
      <tr>
        <th>Browser</th>
        <th>From</th>
        <th>Since</th>
        <th>Last used</th>
        <th><span class="unseen">What can be done</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in browsers" :key="one.name">
        <th scope="row" :title="one.browser">{{ browserInWords(one.browser) }}</th>
        <td>{{ one.from }}</td>
        <td class="soft">{{ momentInWords(one.since, now) }}</td>
        <td class="soft">{{ momentInWords(one.used, now) }}</td>
        <td>
          <span v-if="one.here" class="soft">this one</span>
          <button
            v-else
            class="link"
            type="button"
            @click="attempt(() => api.signOutBrowser(one.name))"
          >
            sign out there
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>
