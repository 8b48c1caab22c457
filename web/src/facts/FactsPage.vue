<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { ToldFact } from '@/api/types'
import { usePickedInstances } from '@/instances/usePickedInstances'
import DataTable from '@/list/DataTable.vue'
import { clock, day } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import LogErrors from './LogErrors.vue'

/** What an instance says of itself: version, start, arguments, settings; and what they were before. */
const here = usePickedInstances()
const instance = computed(() => here.value[0])
const AGAIN_MS = 60_000
const now = useClock()
const { answer: facts, failure } = useAnswer(() => instance.value?.id, api.facts, {
  follows: () => Math.floor(now.value / AGAIN_MS),
})
const filter = useInAddress('filter', '', 'replace')
const changedOnly = useInAddress('changed')

const PARTS: Record<string, string> = { settings: 'setting', properties: 'property' }
/** By name: what holds now, and what held before. */
const rows = computed(() => {
  const found = new Map<string, ToldFact[]>()
  for (const fact of facts.value ?? [])
    found.set(fact.name, [...(found.get(fact.name) ?? []), fact])
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  return [...found]
    .map(([name, all]) => {
      const slash = name.indexOf('/')
      return {
        name,
        part: slash < 0 ? '' : (PARTS[name.slice(0, slash)] ?? name.slice(0, slash)),
        plain: slash < 0 ? name : name.slice(slash + 1),
        now: all.find((f) => f.to === null),
        before: all.filter((f) => f.to !== null),
      }
    })
    .filter((row) => !changedOnly.value || row.before.length)
    .filter((row) =>
      words.every((w) =>
        `${row.name} ${row.part} ${row.now?.value ?? ''}`.toLowerCase().includes(w),
      ),
    )
    .sort((a, b) => a.part.localeCompare(b.part) || a.plain.localeCompare(b.plain))
})
const COLUMNS = [
  { key: 'name', title: '' },
  { key: 'value', title: '' },
]
const about = computed(() => {
  const i = instance.value
  if (!i) return []
  const { host, port, database, tls } = i.endpoint
  return [
    ['address', port === 0 ? `this machine: ${database}` : `${host}:${port}`],
    ['encryption', tls],
    ['signed in as', i.credential ? `credential ${i.credential}` : i.user || 'nobody'],
    ['recipe', i.recipe],
  ]
})
const value = (fact: ToldFact) =>
  fact.name === 'started'
    ? `${day(Number(fact.value))} ${clock(Number(fact.value))}`
    : fact.value || 'empty'
</script>

<template>
  <section aria-label="Facts">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="!instance" class="soft empty">Pick an instance on the left.</p>
    <template v-else>
      <dl>
        <div v-for="[name, words] in about" :key="name">
          <dt class="soft">{{ name }}</dt>
          <dd>{{ words }}</dd>
        </div>
      </dl>
      <div class="bar">
        <ElInput
          v-model="filter"
          class="filter"
          clearable
          placeholder="a name or a value: max_connections"
          aria-label="Search facts"
        />
        <button
          class="link"
          type="button"
          :aria-pressed="changedOnly === 'yes'"
          @click="changedOnly = changedOnly ? '' : 'yes'"
        >
          {{ changedOnly ? 'all facts' : 'only what has changed' }}
        </button>
        <span class="soft">{{ rows.length }} {{ rows.length === 1 ? 'fact' : 'facts' }}</span>
      </div>
      <p v-if="!facts && !failure" class="soft">Fetching the facts …</p>
      <p v-else-if="facts && !rows.length" class="soft">
        {{
          facts.length
            ? changedOnly
              ? 'Nothing has changed since it came under watch.'
              : 'No fact matches.'
            : 'It has not said anything of itself yet; that comes with the first reading.'
        }}
      </p>
      <DataTable
        v-else
        label="Facts"
        :columns="COLUMNS"
        :rows="rows"
        :row-key="(row) => row.name"
        :about="[instance.id, filter, changedOnly]"
      >
        <template #name="{ row }">
          {{ row.plain }} <span class="soft">{{ row.part }}</span>
        </template>
        <template #value="{ row }">
          <div class="value">
            {{ row.now ? value(row.now) : 'not told any more' }}
            <p v-for="old in row.before" :key="old.from" class="soft">
              {{ value(old) }} until {{ day(old.to ?? 0) }} {{ clock(old.to ?? 0) }}
            </p>
          </div>
        </template>
      </DataTable>
      <LogErrors v-if="instance.kind === 'postgresql'" :instance="instance.id" />
    </template>
  </section>
</template>

<style scoped>
dl {
  display: flex;
  gap: 32px;
  padding: 4px 0 12px;
}
dt {
  font-size: 12px;
}
.bar {
  display: flex;
  align-items: center;
  gap: 20px;
  padding-bottom: 12px;
}
.filter {
  width: 320px;
}
.value {
  overflow-wrap: anywhere;
}
:deep(.rows th) {
  width: 320px;
  vertical-align: top;
}
.empty {
  padding: 12px 0;
}
</style>
