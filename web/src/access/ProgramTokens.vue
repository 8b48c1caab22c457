<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import type { NewToken, Role } from '@/api/types'
import CopyText from '@/text/CopyText.vue'
import { clock, day } from '@/text/format'
import RoleFields from './RoleFields.vue'
import { scopeInWords, scopeOf } from './scopes'

/** What programs are let in by: told once, when it is made. */
const {
  answer: tokens,
  failure,
  again,
} = useAnswer(
  () => true,
  (_, signal) => api.tokens(signal),
)
const DAY_MS = 86_400_000
const ENDS = [
  { days: 30, words: '30 days' },
  { days: 90, words: '90 days' },
  { days: 365, words: 'a year' },
]
const form = reactive({ name: '', role: 'act' as Role, scope: [] as string[], days: 90 })
const made = ref<NewToken>()
const { refused, attempt: attemptIt } = useAttempt(again)

function attempt(what: () => Promise<unknown>) {
  made.value = undefined
  return attemptIt(what)
}
const add = () =>
  attempt(async () => {
    made.value = await api.addToken({
      name: form.name.trim(),
      role: form.role,
      scope: scopeOf(form),
      endsAt: Date.now() + form.days * DAY_MS,
    })
    Object.assign(form, { name: '', scope: [] })
  })
const at = (ms: number | null) => (ms ? `${day(ms)} ${clock(ms)}` : 'never')
</script>

<template>
  <h2>Programs</h2>
  <p v-if="failure || refused" class="warning" role="alert">◣ {{ refused || failure }}</p>
  <p v-if="made" class="told" role="status">
    The token of {{ made.name }}, told this once; a program sends it as
    <code>Authorization: Bearer …</code>: <CopyText :text="made.token" what="token" plain />
  </p>
  <p v-if="tokens && !tokens.length" class="soft">
    No program has a token. One is for a script that sets maintenance, or reads numbers.
  </p>
  <table v-else-if="tokens" class="rows" aria-label="Programs">
    <thead>
      <tr>
        <th>Name</th>
        <th>Role</th>
        <th>Scope</th>
        <th>Made</th>
        <th>Ends</th>
        <th>Last used</th>
        <th><span class="unseen">What can be done</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in tokens" :key="one.id">
        <th scope="row">{{ one.name }}</th>
        <td>{{ one.role }}</td>
        <td>{{ scopeInWords(one.scope) }}</td>
        <td class="soft">{{ at(one.madeAt) }}, {{ one.madeBy }}</td>
        <td class="soft">{{ at(one.endsAt) }}</td>
        <td class="soft">{{ at(one.usedAt) }}</td>
        <td>
          <button class="link" type="button" @click="attempt(() => api.removeToken(one.id))">
            take back
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <form class="form" novalidate @submit.prevent="add">
    <label>Name of the program<ElInput v-model="form.name" autocomplete="off" /></label>
    <RoleFields v-model:role="form.role" v-model:scope="form.scope" of="the program" />
    <label
      >Ends after
      <select v-model.number="form.days" aria-label="Ends after">
        <option v-for="one in ENDS" :key="one.days" :value="one.days">{{ one.words }}</option>
      </select>
    </label>
    <ElButton native-type="submit" :disabled="!form.name.trim()">Make a token</ElButton>
  </form>
</template>

<style scoped src="./people.css"></style>
