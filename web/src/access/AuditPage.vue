<script setup lang="ts">
import { ElInput } from 'element-plus'
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Audited } from '@/api/types'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { clock, day, many } from '@/text/format'
import { useWindow } from '@/window/useWindow'
import { differences } from './differences'
import { useMe } from './useMe'

/** Every change and every sign-in of the window: who, from where, what, before and after. */
const { may } = useMe()
const { from, to } = useWindow()
const words = ref('')
const asked = refDebounced(words, 250)
/** A window that moves with the clock is asked anew each minute, not each second. */
const MINUTE = 60_000
const about = computed(() => ({
  from: Math.floor(from.value / MINUTE) * MINUTE,
  to: Math.ceil(to.value / MINUTE) * MINUTE,
}))
const { answer, failure } = useAnswer(
  () => (may('administer') ? asked.value.trim() : undefined),
  (of, signal) => api.audit({ ...about.value, words: of }, signal),
  { follows: () => `${about.value.from} ${about.value.to}` },
)
const MOST = 1000
const exported = computed(() => `/api/audit.csv?from=${about.value.from}&to=${about.value.to}`)
const COLUMNS: Column<Audited>[] = [
  { key: 'at', title: 'When', by: (row) => row.at, first: 'descending' },
  { key: 'who', title: 'Who', by: (row) => row.who },
  { key: 'from', title: 'From', by: (row) => row.address },
  { key: 'what', title: 'What', by: (row) => row.what },
  { key: 'of', title: 'Which', by: (row) => row.of },
  { key: 'how', title: 'Before → after' },
]
</script>

<template>
  <p v-if="!may('administer')" class="soft">
    Who did what is seen by who has the role <em>administer</em>.
  </p>
  <template v-else>
    <p class="over">
      <ElInput v-model="words" class="words" placeholder="a name, an address, a kind of thing" />
      <span v-if="answer" class="soft">
        {{ answer.length === MOST ? `the latest ${MOST} changes` : many(answer.length, 'change') }}
        of the window
      </span>
      <a class="link" :href="exported" download>all of the window as CSV</a>
    </p>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="answer && !answer.length" class="soft">
      Nothing was changed in this window, and nobody signed in.
    </p>
    <DataTable
      v-else-if="answer"
      label="Who did what"
      :columns="COLUMNS"
      :rows="answer"
      :row-key="(row) => `${row.id}`"
    >
      <template #at="{ row }">{{ day(row.at) }} {{ clock(row.at) }}</template>
      <template #who="{ row }">{{ row.who }}</template>
      <template #from="{ row }">{{ row.address || '–' }}</template>
      <template #what="{ row }">{{ row.what.replaceAll('_', ' ') }}</template>
      <template #of="{ row }">{{ row.of }}</template>
      <template #how="{ row }">
        <span v-for="one in differences(row.before, row.after)" :key="one.field" class="field">
          <span class="soft">{{ one.field }}</span> {{ one.words }}
        </span>
      </template>
    </DataTable>
  </template>
</template>

<style scoped>
.over {
  display: flex;
  align-items: baseline;
  gap: 16px;
  margin-bottom: 8px;
}
.words {
  width: 320px;
}
.field {
  display: block;
  overflow-wrap: anywhere;
}
</style>
