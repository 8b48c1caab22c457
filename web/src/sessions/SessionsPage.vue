<script setup lang="ts">
import ChoiceLinks from '@/frame/ChoiceLinks.vue'
import { computed } from 'vue'
import { api } from '@/api/client'
import type { Session } from '@/api/types'
import { usePickedInstances } from '@/instances/usePickedInstances'
import { normalInWords } from '@/series/told'
import { useSeriesThen } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import { many } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import LongerThan from './LongerThan.vue'
import PartCard from './PartCard.vue'
import { asPoints } from './points'
import SessionList from './SessionList.vue'
import { useBusy } from './useBusy'
import { useSampled } from './useSampled'
import { waitKind } from './words'

/** Who is doing what, and what do they wait for: over the window, and one by one at a moment. */
const SPLITS = [
  { key: 'wait', words: 'kind of wait' },
  { key: 'user', words: 'user' },
  { key: 'program', words: 'program' },
  { key: 'module', words: 'module' },
  { key: 'statement', words: 'statement' },
  { key: 'database', words: 'database' },
  { key: 'client', words: 'client' },
]
const here = usePickedInstances()
const engine = computed(() => here.value.find((i) => i.kind === 'postgresql'))
const id = computed(() => engine.value?.id)
const by = useInAddress('by', 'wait')
const only = useInAddress('only')
const behind = useInAddress('behind')

const { answer: split, failure: splitFailure } = useBusy(id, by)
const { answer: sampled, failure } = useSampled(id, api.sessions)

const NOTHING: Record<string, string> = { module: 'no module told', client: 'this machine' }
const titleOf = (name: string, text: string) => {
  if (by.value === 'statement') return text || name || 'no statement'
  if (by.value === 'wait' && name !== 'no wait reported') return waitKind(name)
  return name || (NOTHING[by.value] ?? 'without a name')
}
/** What is normal is known of what is counted, too. */
const { of } = useSeriesThen(computed(() => (id.value === undefined ? [] : [id.value])))
function normalOf(counter: string, wait?: string): string {
  const series = of(id.value ?? 0).find(
    (s) => s.counter === counter && (wait === undefined ? s.whole : s.labels.wait === wait),
  )
  if (!series) return 'no normal of its own'
  const { normalLow: low, normalHigh: high } = series
  return normalInWords({ low, high }, series.unit)
}
const normalOfPart = (name: string) =>
  by.value !== 'wait'
    ? 'no normal of its own'
    : name === 'no wait reported'
      ? normalOf('sessions.active_not_waiting')
      : normalOf('sessions.waiting', name === 'waits for its client' ? 'Client' : name)
const parts = computed(() => {
  const busy = split.value?.told
  if (!busy) return []
  return busy.parts.map((part) => ({
    name: part.name,
    title: titleOf(part.name, part.text),
    about: `${normalOfPart(part.name)} · ${Math.round(part.share * 100)} % of all`,
    points: asPoints(busy, part.mean),
  }))
})
const whole = computed(() => split.value && asPoints(split.value.told, split.value.told.all))
const beside = computed(() => (whole.value ? [whole.value] : []))

/** The same word by which the window is split. */
const partOf = (s: Session): string =>
  ({
    wait:
      s.waitKind === ''
        ? 'no wait reported'
        : s.waitKind === 'Client'
          ? 'waits for its client'
          : s.waitKind,
    user: s.user,
    program: s.program,
    module: s.module,
    statement: s.statement,
    database: s.database,
    client: s.client,
  })[by.value] ?? ''

/** All that wait for one, behind others too. */
const waitingFor = computed(() => {
  const first = Number(behind.value)
  const found = new Set([first])
  for (let before = 0; before < found.size;) {
    before = found.size
    for (const s of sampled.value?.sessions ?? [])
      if (s.blockers.some((pid) => found.has(pid))) found.add(s.pid)
  }
  return found
})
/** Workers of the engine stand apart: they are there for the others. */
const own = useInAddress('own')
const OWN = ['session', 'prepared transaction']
const workers = computed(() => (sampled.value?.sessions ?? []).filter((s) => !OWN.includes(s.kind)))
const listed = computed(() =>
  (sampled.value?.sessions ?? [])
    .filter((s) => own.value || OWN.includes(s.kind) || s.blockers.length || s.behind)
    .filter((s) => !behind.value || waitingFor.value.has(s.pid))
    .filter(
      (s) =>
        !only.value || (s.state === 'active' && s.kind === 'session' && partOf(s) === only.value),
    ),
)
const idle = computed(() => {
  const all = sampled.value?.idle ?? []
  const words = all.slice(0, 4).map((one) => `${one.user || 'nobody'} ${one.count}`)
  return {
    count: all.reduce((sum, one) => sum + one.count, 0),
    words: [...words, ...(all.length > 4 ? ['…'] : [])].join(', '),
  }
})
function splitBy(key: string) {
  if (only.value) only.value = ''
  by.value = key
}
</script>

<template>
  <section aria-label="Sessions">
    <p v-if="!engine" class="soft empty">Pick a PostgreSQL engine on the left.</p>
    <template v-else>
      <p v-if="failure || splitFailure" class="warning" role="alert">
        ◣ {{ failure || splitFailure }}
      </p>
      <p class="by">
        <span class="soft">by</span>
        <ChoiceLinks :model-value="by" :choices="SPLITS" @update:model-value="splitBy" />
        <span v-if="sampled?.every" class="soft every">sampled every {{ sampled.every }} s</span>
      </p>
      <p v-if="!split && !splitFailure" class="soft empty">Adding up the samples …</p>
      <div v-else-if="split && whole" class="parts">
        <PartCard
          title="Active sessions"
          :about="normalOf('sessions.active')"
          :points="whole"
          :beside="beside"
          :from="split.from"
          :to="split.to"
        />
        <PartCard
          v-for="part in parts"
          :key="part.name"
          :title="part.title"
          :about="part.about"
          :points="part.points"
          :beside="beside"
          :from="split.from"
          :to="split.to"
          :picks="part.name !== 'all others'"
          :picked="only === part.name"
          @pick="only = only === part.name ? '' : part.name"
        />
      </div>
      <template v-if="sampled">
        <p v-if="sampled.at === null" class="soft empty">Nothing to list: {{ sampled.why }}.</p>
        <template v-else>
          <div class="two">
            <LongerThan title="Wait for a lock longer than" :counts="sampled.waiting" />
            <LongerThan
              title="Run a statement longer than (waiting included)"
              :counts="sampled.running"
            />
          </div>
          <SessionList
            :sessions="listed"
            :at="sampled.at"
            :past="sampled.asked !== undefined"
            :about="[id, by, only, behind, own, sampled.asked]"
            @behind="(pid) => (behind = `${pid}`)"
          >
            <strong>{{ many(listed.length, 'session') }} active or in a transaction</strong>
            <span class="soft">{{ idle.count }} idle{{ idle.words && `: ${idle.words}` }}</span>
            <button
              v-if="workers.length"
              type="button"
              class="link"
              :aria-pressed="own === 'yes'"
              @click="own = own ? '' : 'yes'"
            >
              {{ own ? 'without' : 'with' }}
              {{ workers.length === 1 ? '1 process' : `${workers.length} processes` }} of the engine
            </button>
            <button v-if="behind" type="button" class="link" @click="behind = ''">
              only those behind {{ behind }}: show all
            </button>
            <button v-if="only" type="button" class="link" @click="only = ''">
              only {{ titleOf(only, '') }}: show all
            </button>
          </SessionList>
          <p v-if="sampled.pooler" class="soft">
            Most come from {{ sampled.pooler }}, through a pooler: program and client are its own,
            who waits there is unseen.
          </p>
          <WhenShown :when="sampled.asked === undefined ? undefined : sampled.at" />
        </template>
      </template>
    </template>
  </section>
</template>

<style scoped>
.by {
  display: flex;
  align-items: baseline;
  gap: 16px;
  padding: 2px 0 10px;
}
.every {
  margin-left: auto;
}
.parts {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 10px;
}
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px;
  padding-top: 10px;
}
.empty {
  padding: 24px 0;
}
@media (width < 1000px) {
  .parts {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
@media (width < 700px) {
  .parts,
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .by {
    flex-wrap: wrap;
  }
}
</style>
