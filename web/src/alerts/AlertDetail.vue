<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import BandChart from '@/chart/BandChart.vue'
import type { Line } from '@/chart/LimitLines.vue'
import { useInstances } from '@/instances/useInstances'
import { onLive } from '@/live/useLive'
import { many, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { standing } from '@/window/useWindow'
import { isOnAxis } from '@/limits/limits'
import {
  acknowledgedOf,
  isOfHeads,
  judgedInWords,
  kindOf,
  sentenceOf,
  SIGN,
  titleOf,
  valueOf,
} from './alert'
import AssignedTo from './AssignedTo.vue'
import AlertSaid from './AlertSaid.vue'
import AlertTransitions from './AlertTransitions.vue'
import AlertsBefore from './AlertsBefore.vue'
import EngineThen from './EngineThen.vue'
import MovedAround from './MovedAround.vue'
import PoolsThen from './PoolsThen.vue'
import { affectedOf, shortOf } from './story'
import WhatToDo from './WhatToDo.vue'
import WhoBlocks from './WhoBlocks.vue'
import SwitchOff from './SwitchOff.vue'
import ToldWho from './ToldWho.vue'
import { useLink } from '@/window/useLink'

/** One alert: what was passed, since when, how bad, every transition, a chart of the time, and what was said to it. */
const props = defineProps<{ id: number }>()
const MARGIN = 10 * 60_000

const MOST_POINTS = 400
const AGAIN_MS = 10_000
const TOGETHER = 6
const SERVERS = 6

const now = useClock()
const { link } = useLink()

const over = ref(false)
const {
  answer: told,
  failure,
  again: load,
} = useAnswer(
  () => props.id,
  async (id, signal) => {
    const [alert, rang, story] = await Promise.all([
      api.alert(id, signal),
      api.rang(id, signal),
      api.story(id, signal),
    ])
    over.value = alert.ended !== null
    const from = alert.since - MARGIN
    const to = Math.min(Date.now(), (alert.ended ?? Date.now()) + MARGIN)
    const points = alert.series
      ? await api.points([alert.series], from, to, MOST_POINTS, signal)
      : []
    return { alert, rang, story, from, to, points: points[0] }
  },
  { follows: () => over.value || Math.floor(now.value / AGAIN_MS) },
)
onLive({ changed: (what) => what === 'alerts' && void load() })

const alert = computed(() => told.value?.alert)
const affected = computed(() => (told.value ? affectedOf(told.value.alert, told.value.story) : ''))
/** Of an engine that is waited at it is told who keeps others waiting. */
const waits = computed(() => /^(sessions|locks)\./.test(alert.value?.counter ?? ''))
const { instances } = useInstances()
const kind = computed(() => instances.value.find((i) => i.id === alert.value?.instance)?.kind)
/** Whose pools tell of it: its own, or those of the servers that use it and ran short. */
const pooled = computed(() => {
  const short = told.value ? shortOf(told.value.story, SERVERS) : []
  return instances.value.filter(
    (one) =>
      one.kind === 'appserver' && (one.id === alert.value?.instance || short.includes(one.id)),
  )
})
const group = computed(() => {
  const a = alert.value
  if (!a) return ''
  return isOfHeads(a)
    ? (a.labels.group ?? '')
    : (instances.value.find((i) => i.id === a.instance)?.group ?? '')
})
const lines = computed<Line[]>(() => {
  const a = alert.value
  if (!a || !isOnAxis(a)) return []
  const passed = (kind: Line['kind']) => {
    const number = a.transitions.filter((t) => t.to === kind).at(-1)?.number
    return number === undefined || number === null ? [] : [{ kind, value: number }]
  }
  return [...passed('warning'), ...passed('critical')]
})

/** The moment in the charts of its instance: the window around it, standing still. */
const moment = computed(() =>
  told.value
    ? link('/now', {
        pick: told.value.alert.instance,
        ...standing(told.value.from, told.value.to),
      })
    : '',
)
/** What left its normal about when it rose. */
const ABOUT = 15 * 60_000
const moved = computed(() =>
  told.value
    ? link('/moved', standing(told.value.alert.since - ABOUT, told.value.alert.since + ABOUT))
    : '',
)
</script>

<template>
  <section v-if="alert" class="detail" aria-label="Alert">
    <h2 :class="kindOf(alert)">
      {{ SIGN[kindOf(alert)] }} {{ valueOf(alert) }} {{ titleOf(alert) }}
    </h2>
    <p class="sentence">
      {{ sentenceOf(alert, now) }} <span v-if="affected">{{ affected }}</span>
    </p>
    <p class="soft">
      {{ alert.state
      }}<template v-if="alert.flapping"> · rose more than three times in an hour</template
      ><template v-if="alert.quiet"> · held back: {{ alert.quiet }}</template
      ><template v-if="alert.afterwards"> · judged afterwards, told to nobody</template
      ><template v-if="alert.worst !== null">
        · worst {{ judgedInWords(alert, alert.worst) }}</template
      >
      ·
      {{ acknowledgedOf(alert, now) }}
    </p>
    <AssignedTo :alert="alert" @done="load" />
    <WhoBlocks v-if="waits" :alert="alert" :now="now" />
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <BandChart
      v-if="alert.series"
      class="chart"
      :points="told?.points"
      :from="told?.from ?? 0"
      :to="told?.to ?? 0"
      :unit="alert.unit"
      :good-end="0"
      :title="alert.title"
      :limits="lines"
      :below="alert.condition === 'below'"
      band
    />
    <div v-if="told" class="cards">
      <MovedAround :alert="alert" :now="now" />
      <template v-if="!isOfHeads(alert)">
        <EngineThen v-if="kind === 'postgresql'" :alert="alert" :now="now" />
        <PoolsThen v-if="pooled.length" :alert="alert" :of="pooled" :now="now" />
      </template>
      <WhatToDo :alert="alert" :story="told.story" :group="group" :now="now" @done="load" />
      <ToldWho :id="alert.id" :now="now" />
      <AlertsBefore :alert="alert" :story="told.story" :now="now" />
      <div v-if="told.story.together.length" class="card">
        <h3>Together with it</h3>
        <p v-for="other in told.story.together.slice(0, TOGETHER)" :key="other.id">
          <RouterLink class="link" :to="link('/alerts', { id: other.id, state: 'all' })"
            ><span :class="kindOf(other)">{{ SIGN[kindOf(other)] }}</span> {{ other.subject }}
            {{ titleOf(other) }}</RouterLink
          >
        </p>
        <p v-if="told.story.together.length > TOGETHER" class="soft">
          and {{ told.story.together.length - TOGETHER }} more
        </p>
      </div>
    </div>
    <AlertSaid :alert="alert" :group="group" :now="now" @done="load">
      <RouterLink class="link" :to="moment">the charts of that time</RouterLink>
      <RouterLink class="link" :to="moved">what else moved</RouterLink>
      <RouterLink class="link" :to="link('/limits', { pick: alert.instance })"
        >its limits</RouterLink
      >
    </AlertSaid>
    <p v-if="told" class="soft">
      This limit rang {{ many(told.rang.times, 'time') }} here in four weeks,
      {{ span(told.rang.seconds * 1000) }} in all.
      <SwitchOff :alert="alert" @done="load" />
    </p>
    <AlertTransitions :alert="alert" :now="now" />
  </section>
  <p v-else-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else class="soft">Fetching the alert …</p>
</template>

<style scoped>
.detail :deep(.card table) {
  width: 100%;
  border-collapse: collapse;
}
.detail :deep(.card :is(td, th)) {
  padding: 4px 8px 4px 0;
  border-top: 1px solid var(--line);
  vertical-align: top;
  font-weight: 400;
  text-align: left;
}
.detail :deep(.card .n) {
  padding-right: 0;
  padding-left: 8px;
  text-align: right;
  white-space: nowrap;
}
.detail {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding-left: 20px;
  border-left: 1px solid var(--line);
}
h2 {
  font-size: 16px;
}
.sentence {
  font-size: 15px;
}
/* of unlike heights: one below the other, without holes */
.cards {
  columns: 300px;
  column-gap: 12px;
}
.cards :deep(.card) {
  margin-bottom: 12px;
  break-inside: avoid;
}
.detail :deep(.card) {
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.detail :deep(h3) {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding-bottom: 4px;
  font-size: 14px;
}
.detail :deep(h3 .link) {
  font-weight: 400;
}
.chart {
  flex: none;
  height: 180px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
@media (width < 700px) {
  .detail {
    padding-left: 0;
    border: 0;
  }
}
</style>
