<script setup lang="ts">
import { ElButton, ElInput, ElMessageBox } from 'element-plus'
import { reactive, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import type { Account, Role } from '@/api/types'
import CopyText from '@/text/CopyText.vue'
import { clock, day } from '@/text/format'
import ProgramTokens from './ProgramTokens.vue'
import SignOnGroups from './SignOnGroups.vue'
import RoleFields from './RoleFields.vue'
import ScopePicker from './ScopePicker.vue'
import { scopeOf } from './scopes'
import { ROLE_WORDS, ROLES, useMe } from './useMe'

/** Who may sign in, how far each may go, and of what. */
const { me, may } = useMe()
const {
  answer: accounts,
  failure,
  again,
} = useAnswer(
  () => may('administer') || undefined,
  (_, signal) => api.accounts(signal),
)
const { refused, attempt: attemptIt } = useAttempt(again)
const entry = ref<{ name: string; address: string }>()
const form = reactive({ name: '', role: 'look' as Role, scope: [] as string[] })

function attempt(what: () => Promise<unknown>) {
  entry.value = undefined
  return attemptIt(what)
}
async function add() {
  const body = { name: form.name.trim(), role: form.role, scope: scopeOf(form), off: false }
  const made = await attempt(async () => letIn(await api.addAccount(body)))
  if (made) Object.assign(form, { name: '', scope: [] })
}
/** Told after the list was fetched again. */
async function letIn(account: Account) {
  const { path } = await api.keyOf(account.id)
  entry.value = { name: account.name, address: location.origin + path }
}
const change = (account: Account, other: Partial<Account>) =>
  attempt(() =>
    api.changeAccount(account.id, {
      name: account.name,
      role: other.role ?? account.role,
      scope: scopeOf({ ...account, ...other }),
      off: other.off ?? account.off,
    }),
  )
async function remove(account: Account) {
  const sure = await ElMessageBox.confirm(
    'What was done under this name stays told. Switching it off keeps the name from being used again.',
    `Remove ${account.name}`,
    { confirmButtonText: `Remove ${account.name}`, cancelButtonText: 'Keep it' },
  ).catch(() => false)
  if (sure) await attempt(() => api.removeAccount(account.id))
}
</script>

<template>
  <p v-if="!may('administer')" class="soft">
    Accounts are seen and changed by who has the role <em>administer</em>.
  </p>
  <template v-else>
    <p v-if="failure || refused" class="warning" role="alert">◣ {{ refused || failure }}</p>
    <p v-if="entry" class="told" role="status">
      This address lets {{ entry.name }} in once, within half an hour; give it to nobody else:
      <CopyText :text="entry.address" what="address" plain />
    </p>
    <table v-if="accounts" class="rows" aria-label="People">
      <thead>
        <tr>
          <th>Name</th>
          <th>Role</th>
          <th>Scope</th>
          <th>Password</th>
          <th>Signed in</th>
          <th><span class="unseen">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in accounts" :key="one.id" :class="{ soft: one.off }">
          <th scope="row">{{ one.name }}{{ one.off ? ' (off)' : '' }}</th>
          <td>
            <select
              :value="one.role"
              :disabled="one.elsewhere"
              :aria-label="`Role of ${one.name}`"
              :title="ROLE_WORDS[one.role as Role]"
              @change="change(one, { role: ($event.target as HTMLSelectElement).value })"
            >
              <option v-for="role in ROLES" :key="role">{{ role }}</option>
            </select>
          </td>
          <td class="scope">
            <ScopePicker
              :model-value="one.scope"
              :of="one.name"
              :disabled="one.elsewhere || one.role === 'administer'"
              @update:model-value="(scope) => change(one, { scope })"
            />
          </td>
          <td>{{ one.elsewhere ? 'elsewhere' : one.password ? 'set' : 'none yet' }}</td>
          <td class="soft">
            {{ one.signedInAt ? `${day(one.signedInAt)} ${clock(one.signedInAt)}` : 'never' }}
          </td>
          <td>
            <span class="acts">
              <button class="link" type="button" @click="attempt(() => letIn(one))">
                let in once
              </button>
              <button class="link" type="button" @click="attempt(() => api.signOutOf(one.id))">
                sign out everywhere
              </button>
              <button class="link" type="button" @click="change(one, { off: !one.off })">
                {{ one.off ? 'switch on' : 'switch off' }}
              </button>
              <button class="link remove" type="button" @click="remove(one)">remove …</button>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <form class="form" novalidate @submit.prevent="add">
      <label>Name<ElInput v-model="form.name" autocomplete="off" /></label>
      <RoleFields v-model:role="form.role" v-model:scope="form.scope" of="the new account" />
      <ElButton type="primary" native-type="submit" :disabled="!form.name.trim()"
        >Add an account</ElButton
      >
    </form>
    <SignOnGroups v-if="me?.elsewhere" :elsewhere="me.elsewhere" />
    <ProgramTokens />
  </template>
</template>

<style scoped src="./people.css"></style>
