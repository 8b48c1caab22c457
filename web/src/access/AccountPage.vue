<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Role } from '@/api/types'
import LikesForm from './LikesForm.vue'
import SignedInList from './SignedInList.vue'
import { scopeInWords } from './scopes'
import { ROLE_WORDS, useMe } from './useMe'

/** What one may change of one's own account. */
const { me, load, leave } = useMe()
const form = reactive({ old: '', password: '' })
const failure = ref('')
const done = ref('')
const busy = ref(false)

async function change() {
  busy.value = true
  failure.value = done.value = ''
  try {
    await api.changePassword(form.old, form.password)
    Object.assign(form, { old: '', password: '' })
    done.value = 'Changed. All other browsers that you were signed in with are signed out.'
    await load()
  } catch (e) {
    failure.value = inWords(e)
  }
  busy.value = false
}
</script>

<template>
  <p>
    You are <strong>{{ me?.name }}</strong>, with the role <strong>{{ me?.role }}</strong>:
    {{ ROLE_WORDS[(me?.role ?? 'look') as Role] }}, of
    <strong>{{ scopeInWords(me?.scope ?? []) }}</strong>.
  </p>
  <h2>How you like it</h2>
  <p class="soft">Kept as soon as you choose it, for every browser that you sign in with.</p>
  <LikesForm />
  <h2>Password</h2>
  <form class="form" novalidate @submit.prevent="change">
    <label
      >Until now (not needed once an address has let you in)<ElInput
        v-model="form.old"
        type="password"
        autocomplete="current-password"
    /></label>
    <label
      >From now on<ElInput
        v-model="form.password"
        type="password"
        show-password
        autocomplete="new-password"
    /></label>
    <ElButton type="primary" native-type="submit" :disabled="busy || !form.password"
      >Change the password</ElButton
    >
  </form>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-if="done" role="status">{{ done }}</p>
  <h2>Where you are signed in</h2>
  <SignedInList />
  <h2>Sign out</h2>
  <p class="acts">
    <ElButton @click="leave()">Sign out here</ElButton>
    <ElButton @click="leave(true)">Sign out everywhere</ElButton>
  </p>
</template>

<style scoped>
.form {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 12px;
  max-width: 760px;
}
label {
  flex: 1 1 220px;
  color: var(--ink-soft);
  font-size: 12px;
}
h2 {
  margin-top: 20px;
  font-size: 16px;
}
</style>
