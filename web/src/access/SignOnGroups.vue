<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { reactive } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import type { Role } from '@/api/types'
import RoleFields from './RoleFields.vue'
import { scopeInWords, scopeOf } from './scopes'

/** What the members of groups may who come in by single sign-on. */
defineProps<{ elsewhere: string }>()
const {
  answer: groups,
  failure,
  again,
} = useAnswer(
  () => true,
  (_, signal) => api.signOnGroups(signal),
)
const form = reactive({ name: '', role: 'look' as Role, scope: [] as string[] })
const { refused, attempt } = useAttempt(again)

const add = () =>
  attempt(async () => {
    await api.putSignOnGroup({ name: form.name.trim(), role: form.role, scope: scopeOf(form) })
    Object.assign(form, { name: '', scope: [] })
  })
</script>

<template>
  <h2>Groups of {{ elsewhere }}</h2>
  <p v-if="failure || refused" class="warning" role="alert">◣ {{ refused || failure }}</p>
  <p class="soft">
    Who comes by {{ elsewhere }} may what their groups may here, from when they sign in next: of
    several the role that may most. Who is in none of these is not let in.
  </p>
  <table v-if="groups?.length" class="rows" :aria-label="`Groups of ${elsewhere}`">
    <thead>
      <tr>
        <th>Group</th>
        <th>Role</th>
        <th>Scope</th>
        <th><span class="unseen">What can be done</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in groups" :key="one.name">
        <th scope="row">{{ one.name }}</th>
        <td>{{ one.role }}</td>
        <td>{{ scopeInWords(one.scope) }}</td>
        <td>
          <button
            class="link"
            type="button"
            @click="attempt(() => api.removeSignOnGroup(one.name))"
          >
            take back
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <form class="form" novalidate @submit.prevent="add">
    <label>Group<ElInput v-model="form.name" autocomplete="off" /></label>
    <RoleFields v-model:role="form.role" v-model:scope="form.scope" of="the group" />
    <ElButton native-type="submit" :disabled="!form.name.trim()">Let its members in</ElButton>
  </form>
</template>

<style scoped src="./people.css"></style>
