<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Instance } from '@/api/types'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import ChartGrid, { type Cell } from '@/series/ChartGrid.vue'
import { useSeries } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import SessionMore from '@/sessions/SessionMore.vue'
import { useSampled } from '@/sessions/useSampled'
import { age, whoIs } from '@/sessions/words'
import { clock, many, seconds } from '@/text/format'
import { useLink } from '@/window/useLink'
import { useWindow } from '@/window/useWindow'
import DeadlockList from './DeadlockList.vue'
import EarlierHolders from './EarlierHolders.vue'
import { rowsOf, type Row } from './rows'

/** Who waits for whom: roots block and do not wait themselves, and below each stands who waits for it. */
const CHARTS = ['sessions.waiting_lock', 'locks.oldest_wait', 'deadlocks']
const props = defineProps<{ engine: Instance }>()
const id = computed(() => props.engine.id)
const { answer: locks, failure } = useSampled(id, api.locks)
const { go } = useLink()
const window = useWindow()
const { of } = useSeries(computed(() => [id.value]))
const cells = computed<Cell[]>(() =>
  CHARTS.flatMap((counter) => {
    const series = of(id.value).find((s) => s.counter === counter && s.whole)
    return series ? [{ series, instance: id.value }] : []
  }),
)

const deadlocks = computed(
  () => cells.value.find((cell) => cell.series.counter === 'deadlocks')?.series.id,
)
/** Who held when the window began: what is seen now may have lasted for long, or be new. */
const { answer: first } = useAnswer(
  () => id.value,
  (engine, signal) => {
    const from = Math.round(window.from.value)
    return api.locks(engine, from, signal).then((told) => ({ told, from }))
  },
  {
    instead: () => (window.live.value ? window.width.value : window.from.value),
    follows: () => window.live.value && Math.floor(window.from.value / 60_000),
  },
)
const begun = computed(() => {
  const { told, from } = first.value ?? {}
  if (!told || from === undefined || told.at === null) return ''
  const roots = told.roots.map((root) => (root.session ? whoIs(root.session) : `${root.pid}`))
  const who = roots.length ? `${roots.join(', ')} kept ${told.waiting} waiting` : 'nobody waited'
  return `At ${clock(from)}, when the window begins, ${who}.`
})
const chosen = ref('')
const rows = computed(() => (locks.value ? rowsOf(locks.value) : []))
/** The first root is what one came for. */
const told = computed(() => rows.value.find((row) => row.key === chosen.value) ?? rows.value[0])
const COLUMNS: Column<Row>[] = [
  { key: 'who', title: 'Root, and who waits behind it' },
  { key: 'what', title: 'What' },
  { key: 'waiting', title: 'Waiting', n: true },
  { key: 'transaction', title: 'In transaction', n: true },
  { key: 'frees', title: 'Wait only because of it', n: true },
]
const sum = computed(() => {
  const all = locks.value
  if (!all) return ''
  if (!all.waiting) return 'Nobody waits for a lock.'
  const longest = Math.max(...all.roots.map((root) => root.longestMs), 0)
  const deep = Math.max(...all.roots.map((root) => root.depth), 0)
  const keep = all.roots.length === 1 ? 'keeps' : 'keep'
  return `${many(all.roots.length, 'root')} ${keep} ${many(all.waiting, 'session')} waiting, ${deep} deep · longest ${seconds(longest / 1000)}`
})
const behind = (pid: number) => go('/sessions', { pick: id.value, behind: pid })
</script>

<template>
  <section aria-label="Locks">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="!locks && !failure" class="soft empty">Fetching the locks …</p>
    <p v-else-if="locks" class="sum" role="status">
      {{ locks.at === null ? `Nothing to show: ${locks.why}.` : sum }}
    </p>
    <p v-if="begun" class="soft begun">{{ begun }}</p>
    <ChartGrid :cells="cells" />
    <template v-if="locks && locks.at !== null">
      <p v-for="circle in locks.cycles" :key="circle.join()" class="critical">
        ◆ {{ circle.join(' waits for ') }} waits for {{ circle[0] }}: a circle. The engine ends one
        of them after its deadlock time-out.
      </p>
      <DataTable
        v-if="rows.length"
        class="forest"
        label="Who waits for whom"
        :columns="COLUMNS"
        :rows="rows"
        :row-key="(row) => row.key"
        :about="[id, locks.asked]"
        :on="(row) => row === told"
        :alike="(row) => (row === told ? '' : row.alike)"
      >
        <template #who="{ row }">
          <span class="who" :style="{ paddingLeft: `${row.depth * 24}px` }"
            ><span v-if="row.depth" class="soft" aria-hidden="true">└ </span
            ><button
              type="button"
              class="link"
              :aria-pressed="row === told"
              @click="chosen = row.key"
            >
              {{ row.pid < 0 ? 'prepared' : row.pid }}
            </button>
            {{ ' ' }}
            <component :is="row.root ? 'strong' : 'span'">{{
              row.session ? whoIs(row.session) : 'gone when the sessions were read'
            }}</component>
            <span class="unseen">, level {{ row.depth + 1 }}</span>
          </span>
        </template>
        <template #what="{ row: { root, node, session } }">
          <template v-if="root">
            {{ session?.state ?? 'gone' }}
            <template v-if="root.holds[0]"
              >· holds <strong>{{ root.holds[0].object }}</strong>
              <span class="soft">{{ ` ${root.holds[0].mode}` }}</span></template
            >
            <span v-if="root.holds.length > 1" class="soft">
              and {{ root.holds.length - 1 }} more</span
            >
          </template>
          <template v-else-if="node">
            wants {{ node.wants || 'a lock' }} <span class="soft">{{ node.mode }}</span><template
              v-if="node.ahead"
              >, behind it in the queue</template
            ><span v-if="node.reference" class="soft"> · stands above, too</span>
          </template>
          <code v-if="session?.text" class="text" :title="session.text"
            ><span v-if="session.last" class="soft">last: </span>{{ session.text }}</code
          >
        </template>
        <template #waiting="{ row: { session } }"
          ><span v-if="session?.atMost" class="soft">at most </span
          >{{ age(session?.waitedMs ?? null) }}</template
        >
        <template #transaction="{ row: { session } }">{{
          age(session?.transactionMs ?? null)
        }}</template>
        <template #frees="{ row: { root, node } }">{{
          root ? root.onlyBecause : (node?.frees ?? '')
        }}</template>
      </DataTable>
      <section v-if="told" class="told" :aria-label="`About ${told.pid}`">
        <p v-if="told.root">
          <strong
            >{{ many(told.root.onlyBecause, 'session') }}
            {{ told.root.onlyBecause === 1 ? 'waits' : 'wait' }} only because of
            {{ told.pid < 0 ? 'the prepared transaction' : told.pid }}</strong
          >; ended, they queue among themselves.
          <template v-if="told.session?.state.startsWith('idle in')"
            >It has done nothing for {{ age(told.session.stateMs) }}.</template
          >
        </p>
        <p v-for="held in told.root?.holds" :key="`${held.object} ${held.mode}`" class="soft">
          holds {{ held.object }} ({{ held.mode }}){{ held.words && `: ${held.words}` }}
        </p>
        <EarlierHolders
          v-if="told.root && told.session"
          :instance="id"
          :holder="told.session"
          :at="locks.at"
        />
        <SessionMore
          v-if="told.session"
          :session="told.session"
          :at="locks.at"
          :past="locks.asked !== undefined"
          @behind="behind(told.pid)"
        />
        <p v-else class="soft">It was gone when the sessions were read: it may have ended.</p>
      </section>
      <p v-for="queue in locks.queues" :key="queue.session.pid">
        <strong>{{ queue.session.pid }}</strong> ({{ whoIs(queue.session) }}) waits itself, and is
        ahead of others: cancelled, it frees <strong>{{ queue.frees }}</strong>.
      </p>
      <WhenShown :when="locks.asked === undefined ? undefined : locks.at" />
    </template>
    <DeadlockList :instance="id" :counter="deadlocks" />
  </section>
</template>

<style scoped>
.sum {
  padding: 2px 0 4px;
}
.begun {
  padding-bottom: 8px;
  font-size: 12.5px;
}
:deep(.when) {
  padding-top: 10px;
}
.forest {
  margin-top: 10px;
}
.who {
  white-space: nowrap;
}
.text {
  display: block;
  max-width: 400px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.told {
  padding: 10px 12px;
  margin-bottom: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.empty {
  padding: 24px 0;
}
</style>
