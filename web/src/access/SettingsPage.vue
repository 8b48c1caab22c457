<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useLink } from '@/window/useLink'
import { useMe } from './useMe'

/** How the server was set when it was started. */
const { may } = useMe()
const { link } = useLink()
const { answer: settings, failure } = useAnswer(
  () => may('administer') || undefined,
  (_, signal) => api.settings(signal),
)
const parts = computed(() => [...new Set(settings.value?.map((one) => one.part))])
</script>

<template>
  <p v-if="!may('administer')" class="soft">
    How the server is set is told to who has the role <em>administer</em>.
  </p>
  <template v-else>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p class="soft">
      What is set when the server is started, and by what: it is changed by starting it otherwise.
      For how long what was read is kept:
      <RouterLink class="link" :to="link('/estate', { part: 'store' })">the store</RouterLink>. Who
      may come in: <RouterLink class="link" :to="link('/people')">people and programs</RouterLink>.
    </p>
    <table v-for="part in parts" :key="part" class="rows" :aria-label="part">
      <caption>
        {{
          part
        }}
      </caption>
      <tbody>
        <tr v-for="one in settings?.filter((s) => s.part === part)" :key="one.what">
          <th scope="row">{{ one.what }}</th>
          <td>{{ one.value }}</td>
          <td class="soft">
            <code>{{ one.by }}</code>
          </td>
        </tr>
      </tbody>
    </table>
  </template>
</template>

<style scoped>
table {
  max-width: 860px;
  margin-bottom: 16px;
  table-layout: fixed;
}
caption {
  padding: 8px 10px 4px;
  font-weight: 600;
  text-align: left;
}
td {
  overflow-wrap: anywhere;
}
</style>
