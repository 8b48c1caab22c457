<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import type { Instance, Threads } from '@/api/types'
import { useAnswer } from '@/api/useAnswer'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { many, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import { useOverWindow } from '@/window/useOverWindow'
import { callOf, classOf, namesOf, withPlaces, type AlikeRow } from './threads'

/** What the threads of a JVM did where something was the cause to look: by lock, and by what they do. */
const props = defineProps<{ instance: Instance }>()
const now = useClock()
const chosen = useInAddress('dump')
const { answer: taken, failure } = useOverWindow(
  () => props.instance.id,
  (id, from, to, signal) => api.threadsTaken(id, from, to, signal),
  10_000,
)
const dumps = computed(() => taken.value?.told ?? [])
/** The newest one, unless one is picked. */
const at = computed(
  () => dumps.value.find((dump) => String(dump.at) === chosen.value)?.at ?? dumps.value[0]?.at,
)
const { answer: threads, failure: unread } = useAnswer(
  () => (at.value === undefined ? undefined : { id: props.instance.id, at: at.value }),
  ({ id, at }, signal) => api.threads(id, at, signal),
  { instead: () => `${props.instance.id} ${at.value}` },
)
type Lock = Threads['locks'][number]
const nameOf = (id: number) => threads.value?.threads.find((one) => one.id === id)?.name ?? `${id}`
const doing = (id: number) => {
  const one = threads.value?.threads.find((thread) => thread.id === id)
  return one && threads.value
    ? `${one.state.toLowerCase()} in ${callOf(threads.value, one.stack)}`
    : ''
}
const LOCKS: Column<Lock>[] = [
  { key: 'lock', title: 'Lock' },
  { key: 'holder', title: 'Held by' },
  { key: 'waiters', title: 'Wait for it' },
  { key: 'behind', title: 'Behind them', n: true },
]
const ALIKE: Column<AlikeRow>[] = [
  { key: 'call', title: 'At' },
  { key: 'n', title: 'Threads', n: true },
  { key: 'state', title: 'State' },
  { key: 'kind', title: 'Waits for' },
]
const rows = computed(() => (threads.value ? withPlaces(threads.value) : []))
const open = ref('')
const toggle = (key: string) => (open.value = open.value === key ? '' : key)
</script>

<template>
  <section :aria-label="`Threads of ${instance.name}`">
    <h2>Threads of {{ instance.name }}</h2>
    <p v-if="failure || unread" class="warning" role="alert">◣ {{ failure || unread }}</p>
    <p v-if="!taken && !failure" class="soft empty">Fetching what was looked at …</p>
    <p v-else-if="taken && !dumps.length" class="soft empty">
      Nobody looked at its threads in this window. That is done by itself when request threads, a
      connection pool or a deadlock becomes critical, at most once in five minutes: the JVM stands
      still for it for some milliseconds.
    </p>
    <template v-else-if="taken">
      <ul class="taken" aria-label="When they were looked at">
        <li v-for="dump in dumps" :key="dump.at">
          <button
            type="button"
            class="link"
            :aria-pressed="dump.at === at"
            @click="chosen = `${dump.at}`"
          >
            {{ momentInWords(dump.at, now) }}
          </button>
          <span class="soft">{{
            ` ${dump.why} · ${many(dump.threads, 'thread')}, ${dump.blocked} blocked`
          }}</span>
        </li>
      </ul>
      <p v-if="!threads && !unread" class="soft empty">Fetching the threads …</p>
      <template v-else-if="threads">
        <p v-if="threads.more" class="soft">
          {{ many(threads.more, 'more thread') }} of it were not looked at.
        </p>
        <DataTable
          v-if="threads.locks.length"
          label="Locks that threads wait for"
          :columns="LOCKS"
          :rows="threads.locks"
          :row-key="(lock) => `${lock.name} ${lock.holder}`"
          :about="[instance.id, threads.at]"
        >
          <template #lock="{ row }">
            <code>{{ row.name }}</code>
            <strong v-if="row.ring" class="critical"> ◆ in a circle: it never ends</strong>
          </template>
          <template #holder="{ row }">
            <strong>{{ nameOf(row.holder) }}</strong>
            <span class="soft block">{{ doing(row.holder) }}</span>
          </template>
          <template #waiters="{ row }">{{ namesOf(row.waiters.map(nameOf)) }}</template>
          <template #behind="{ row }">{{ row.behind || '' }}</template>
        </DataTable>
        <p v-else class="soft">No thread waits for a lock that another one holds.</p>
        <DataTable
          class="doing"
          label="What threads do"
          :columns="ALIKE"
          :rows="rows"
          :row-key="(row) => row.key"
          :about="[instance.id, threads.at]"
          :open="open"
        >
          <template #call="{ row }">
            <button
              type="button"
              class="link code"
              :aria-expanded="row.key === open"
              @click="toggle(row.key)"
            >
              {{ row.call }}
            </button>
          </template>
          <template #n="{ row }">{{ row.ids.length }}</template>
          <template #state="{ row }">{{ row.state.toLowerCase().replace('_', ' ') }}</template>
          <template #kind="{ row }"
            ><code :title="row.kind">{{ classOf(row.kind) }}</code></template
          >
          <template #more="{ row }">
            <p class="names">{{ namesOf(row.ids.map(nameOf), 40) }}</p>
            <p v-if="row.kind" class="soft">waits for {{ row.kind }}</p>
            <pre tabindex="0">{{ row.calls.join('\n') }}</pre>
          </template>
        </DataTable>
      </template>
    </template>
  </section>
</template>

<style scoped>
section + section {
  margin-top: 16px;
}
h2 {
  font-size: 16px;
}
.empty {
  padding: 16px 0;
}
.taken {
  max-height: 132px;
  padding: 4px 0 10px;
  overflow-y: auto;
}
.taken li {
  min-height: 24px;
}
.taken [aria-pressed='true'] {
  font-weight: 600;
}
.block {
  display: block;
  font-size: 12.5px;
}
.doing {
  margin-top: 12px;
}
.code {
  font-family: var(--code);
  font-size: 12.5px;
  text-align: left;
}
.names {
  padding: 4px 0;
}
pre {
  max-height: 260px;
  overflow: auto;
  font-size: 12.5px;
}
</style>
