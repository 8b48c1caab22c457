<script setup lang="ts">
import '@/look/choices'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import type { Session } from '@/api/types'
import CsvButton from '@/list/CsvButton.vue'
import type { Column } from '@/list/columns'
import { iso, type CsvColumn } from '@/list/csv'
import DataTable from '@/list/DataTable.vue'
import { useInAddress } from '@/window/useInAddress'
import { GROUPS } from './groups'
import SessionGroups from './SessionGroups.vue'
import SessionMore from './SessionMore.vue'
import { age, waitsFor, whoIs } from './words'

/** Sessions at a moment, who waits longest first; those that look the same fold. */
const props = defineProps<{ sessions: Session[]; at: number; past: boolean; about: unknown }>()
const emit = defineEmits<{ behind: [pid: number] }>()
const open = ref('')
const sort = ref('waiting')
const folds = ref(true)
const group = useInAddress('group')

const COLUMNS: Column<Session>[] = [
  { key: 'pid', title: 'Session', by: (s) => s.pid },
  { key: 'who', title: 'User · program', by: whoIs },
  { key: 'state', title: 'State', by: (s) => s.state },
  { key: 'waits', title: 'Waits for', by: waitsFor },
  { key: 'waiting', title: 'Waiting', n: true, by: (s) => s.waitedMs },
  { key: 'transaction', title: 'In transaction', n: true, by: (s) => s.transactionMs },
  { key: 'statement', title: 'Statement', by: (s) => s.text },
  { key: 'blocked', title: 'Blocked by', by: (s) => s.blockers[0] },
]
const CSV: CsvColumn<Session>[] = [
  ['at', () => iso(props.at)],
  ['session', (s) => s.pid],
  ['kind', (s) => s.kind],
  ['user', (s) => s.user],
  ['program', (s) => s.program],
  ['module', (s) => s.module],
  ['database', (s) => s.database],
  ['client', (s) => s.client],
  ['began', (s) => iso(s.started)],
  ['state', (s) => s.state],
  ['ms in it', (s) => s.stateMs],
  ['kind of wait', (s) => s.waitKind],
  ['waits for', (s) => s.waitsFor],
  ['ms waiting', (s) => s.waitedMs],
  ['ms in transaction', (s) => s.transactionMs],
  ['ms in statement', (s) => s.statementMs],
  ['blocked by', (s) => s.blockers.join(' ')],
  ['statement is the last one', (s) => (s.last ? 'yes' : 'no')],
  ['statement', (s) => s.text],
]
const keyOf = (s: Session) => `${s.pid} ${s.started}`
/** The open one, and who holds up others, stand alone. */
const alike = (s: Session) =>
  s.behind || keyOf(s) === open.value
    ? ''
    : [s.user, s.program, s.state, waitsFor(s), s.statement, s.blockers.join()].join('\n')
const pids = computed(() => new Set(props.sessions.map((s) => s.pid)))
</script>

<template>
  <p class="tools">
    <slot />
    <button type="button" class="link" :aria-pressed="folds" @click="folds = !folds">
      {{ folds ? 'unfold the same' : 'fold the same' }}
    </button>
    <label class="group">
      <span class="soft">together by</span>
      <ElSelect
        v-model="group"
        aria-label="together by"
        placeholder="nothing"
        size="small"
        style="width: 150px"
      >
        <ElOption value="" label="nothing" />
        <ElOption v-for="one in GROUPS" :key="one.key" :value="one.key" :label="one.words" />
      </ElSelect>
    </label>
  </p>
  <SessionGroups v-if="group" :sessions="sessions" :by="group" :about="about" />
  <DataTable
    v-else
    v-model:sort="sort"
    label="Sessions"
    :columns="COLUMNS"
    :rows="sessions"
    :row-key="keyOf"
    :about="[about, folds]"
    :open="open"
    :alike="folds ? alike : undefined"
  >
    <template #pid="{ row: s }">
      <button
        type="button"
        class="link"
        :aria-expanded="open === keyOf(s)"
        @click="open = open === keyOf(s) ? '' : keyOf(s)"
      >
        {{ s.pid < 0 ? 'prepared' : s.pid }}
      </button>
    </template>
    <template #who="{ row: s }"
      ><span class="who" :title="whoIs(s)">{{ whoIs(s) }}</span></template
    >
    <template #state="{ row: s }"
      ><span class="one">{{ s.state }}</span
      ><span v-if="s.kind !== 'session'" class="soft">{{ `, ${s.kind}` }}</span></template
    >
    <template #waits="{ row: s }"
      ><span class="one">{{ waitsFor(s) }}</span></template
    >
    <template #waiting="{ row: s }"
      ><span v-if="s.atMost" class="soft">at most </span>{{ age(s.waitedMs) }}</template
    >
    <template #transaction="{ row: s }">{{ age(s.transactionMs) }}</template>
    <template #statement="{ row: s }">
      <code class="text" :title="s.text"
        ><span v-if="s.last && s.text" class="soft">last: </span>{{ s.text }}</code
      >
    </template>
    <template #blocked="{ row: s }">
      <template v-for="pid in s.blockers" :key="pid"
        ><button
          v-if="pids.has(pid)"
          type="button"
          class="link"
          :title="`only those behind ${pid}`"
          @click="emit('behind', pid)"
        >
          {{ pid < 0 ? 'prepared' : pid }}</button
        ><span v-else class="soft">{{ pid }}, gone</span>{{ ' ' }}</template
      >
    </template>
    <template #more="{ row: s }">
      <SessionMore :session="s" :at="at" :past="past" @behind="emit('behind', s.pid)" />
    </template>
  </DataTable>
  <p class="after">
    <CsvButton :name="`sessions-${iso(at)}`" :columns="CSV" :rows="sessions" />
  </p>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: baseline;
  padding: 10px 0 6px;
}
.tools :deep(.link),
.group {
  white-space: nowrap;
}
.group {
  display: flex;
  gap: 6px;
  align-items: center;
}
.after {
  padding: 6px 0;
  text-align: right;
}
.tools > :last-child {
  margin-left: auto;
}
.text,
.who {
  display: block;
  max-width: 230px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.who {
  max-width: 180px;
}
.one {
  white-space: nowrap;
}
</style>
