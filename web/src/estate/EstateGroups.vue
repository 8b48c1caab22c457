<script setup lang="ts">
import { useMe } from '@/access/useMe'
import { vMay } from '@/access/vMay'
import '@/look/choices'
import { ElButton, ElInput, ElInputNumber } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { api, inWords } from '@/api/client'
import { useGroups } from '@/groups/useGroups'
import { isOwn } from '@/instances/kinds'
import { useInstances } from '@/instances/useInstances'

const { may } = useMe()

/**
 * How many of each group there should be at each site: what "5 of 6" on the shelf counts against. Where it
 * is said what its JVMs on Jam Jar's machine run, or how that begins, those that nobody watches count too.
 */
const { instances } = useInstances()
const { reload, expected, commandOf, all } = useGroups()
const failure = ref('')
const fresh = reactive({ name: '', site: '', expected: 1 })

const rows = computed(() => {
  const found = new Map<string, { name: string; site: string; there: number }>()
  const at = (name: string, site: string) => {
    const key = `${site}\n${name}`
    const row = found.get(key) ?? { name, site, there: 0 }
    found.set(key, row)
    return row
  }
  for (const group of all.value) at(group.name, group.site)
  for (const i of instances.value) if (i.group && !isOwn(i)) at(i.group, i.site).there++
  return [...found.values()].sort(
    (a, b) => a.site.localeCompare(b.site) || a.name.localeCompare(b.name),
  )
})

async function put(
  name: string,
  site: string,
  count: number | undefined,
  command = commandOf(name, site),
) {
  if (!name || count === undefined) return
  try {
    await api.expect({ name, site, expected: count, command })
    await reload()
    failure.value = ''
  } catch (e) {
    failure.value = inWords(e)
  }
}
const run = (row: { name: string; site: string; there: number }, command: string) =>
  put(row.name, row.site, expected(row.name, row.site) ?? row.there, command)
async function add() {
  await put(fresh.name.trim(), fresh.site.trim(), fresh.expected)
  fresh.name = ''
}
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-if="!rows.length" class="soft">No instance is in a group yet.</p>
  <table v-else class="rows">
    <thead>
      <tr>
        <th>Group</th>
        <th>Site</th>
        <th>Under watch</th>
        <th>There should be</th>
        <th>Its JVMs here run</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="`${row.site} ${row.name}`">
        <th scope="row">{{ row.name }}</th>
        <td>{{ row.site }}</td>
        <td>{{ row.there }}</td>
        <td>
          <ElInputNumber
            :model-value="expected(row.name, row.site) ?? row.there"
            :min="0"
            :max="10000"
            :disabled="!may('shape')"
            size="small"
            :aria-label="`Expected of ${row.name} at ${row.site}`"
            @change="(count) => put(row.name, row.site, count ?? undefined)"
          />
          <span v-if="expected(row.name, row.site) === undefined" class="soft">
            not said: as many as there are</span
          >
        </td>
        <td>
          <input
            class="own"
            :disabled="!may('shape')"
            :value="commandOf(row.name, row.site)"
            placeholder="not looked for"
            :aria-label="`What the JVMs of ${row.name} at ${row.site} run`"
            @change="run(row, ($event.target as HTMLInputElement).value)"
          />
        </td>
      </tr>
    </tbody>
  </table>
  <form v-may="'shape'" class="fresh" @submit.prevent="add">
    <label>Group<ElInput v-model="fresh.name" /></label>
    <label>Site<ElInput v-model="fresh.site" /></label>
    <label>There should be<ElInputNumber v-model="fresh.expected" :min="0" :max="10000" /></label>
    <ElButton native-type="submit" :disabled="!fresh.name.trim()">Add a group</ElButton>
  </form>
</template>

<style scoped>
.fresh {
  display: flex;
  align-items: flex-end;
  gap: 12px;
}
label {
  display: grid;
  color: var(--ink-soft);
  font-size: 12px;
}
</style>
