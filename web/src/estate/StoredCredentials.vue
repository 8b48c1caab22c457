<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ElButton, ElInput, ElMessageBox } from 'element-plus'
import { onMounted, reactive, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { StoredCredential } from '@/api/types'
import { byId } from '@/instances/useInstances'
import { clock, day } from '@/text/format'

/** Users with their passwords, each for several instances, changed in one place and never given out. */
const all = ref<StoredCredential[]>()
const failure = ref('')
const done = ref('')
const form = reactive({ name: '', user: '', secret: '' })
const changing = ref(false)

async function attempt(what: () => Promise<unknown>) {
  failure.value = ''
  done.value = ''
  try {
    await what()
    all.value = await api.credentials()
    return true
  } catch (e) {
    failure.value = inWords(e)
    return false
  }
}
onMounted(() => attempt(async () => {}))

function change(credential: StoredCredential) {
  Object.assign(form, { name: credential.name, user: credential.user, secret: '' })
  changing.value = true
}
async function save() {
  const name = form.name.trim()
  if (await attempt(() => api.putCredential(name, { user: form.user, secret: form.secret }))) {
    const users = all.value?.find((c) => c.name === name)?.usedBy.length ?? 0
    done.value = `${name} is stored.${users ? ` ${users} instances sign in with it from now on.` : ''}`
    Object.assign(form, { name: '', user: '', secret: '' })
    changing.value = false
  }
}
async function remove(credential: StoredCredential) {
  const sure = await ElMessageBox.confirm(
    `Its password is gone for good. No instance uses it.`,
    `Remove ${credential.name}`,
    { confirmButtonText: `Remove ${credential.name}`, cancelButtonText: 'Keep it' },
  ).catch(() => false)
  if (sure) await attempt(() => api.removeCredential(credential.name))
}
const names = (ids: number[]) => ids.map((id) => byId(id).value?.name ?? `${id}`).join(', ')
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-if="done" role="status">{{ done }}</p>
  <p v-if="all && !all.length" class="soft">
    None yet. Store one below, then choose it when an instance is added, or name it in a file.
  </p>
  <table v-else-if="all" class="rows">
    <thead>
      <tr>
        <th>Name</th>
        <th>User</th>
        <th>Used by</th>
        <th>Changed</th>
        <th><span class="unseen">What can be done</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="credential in all" :key="credential.name">
        <th scope="row">{{ credential.name }}</th>
        <td>{{ credential.user }}</td>
        <td>{{ names(credential.usedBy) || 'none yet' }}</td>
        <td class="soft">{{ day(credential.changedAt) }} {{ clock(credential.changedAt) }}</td>
        <td v-may="'administer'" class="acts">
          <button class="link" type="button" @click="change(credential)">change …</button>
          <button
            v-if="!credential.usedBy.length"
            class="link remove"
            type="button"
            @click="remove(credential)"
          >
            remove …
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <form v-may="'administer'" class="form" @submit.prevent="save">
    <label>Name<ElInput v-model="form.name" :disabled="changing" placeholder="readers" /></label>
    <label>User<ElInput v-model="form.user" autocomplete="off" /></label>
    <label
      >Password<ElInput v-model="form.secret" type="password" autocomplete="new-password"
    /></label>
    <ElButton type="primary" native-type="submit" :disabled="!form.name.trim() || !form.secret">{{
      changing ? 'Change it everywhere' : 'Store it'
    }}</ElButton>
  </form>
</template>

<style scoped>
.form {
  display: flex;
  align-items: flex-end;
  gap: 12px;
  max-width: 760px;
}
label {
  flex: 1;
  color: var(--ink-soft);
  font-size: 12px;
}
.acts {
  display: flex;
  gap: 16px;
}
.remove {
  color: var(--raspberry);
}
</style>
