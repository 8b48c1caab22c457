<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { api, inWords } from '@/api/client'
import type { Alert, Points, Rang } from '@/api/types'
import BandChart from '@/chart/BandChart.vue'
import type { Line } from '@/chart/LimitLines.vue'
import { useLive } from '@/live/useLive'
import { clock, clockWithSeconds, day, number, plain, range, since, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import SwitchOff from './SwitchOff.vue'
import { kindOf, isOfInstance, SIGN, titleOf, valueOf } from './useAlerts'
import { useLink } from '@/window/useLink'

/** One alert: what was passed, since when, how bad, every transition, a chart of the time, and what was said to it. */
const props = defineProps<{ id: number }>()
const MARGIN = 10 * 60_000

const alert = ref<Alert>()
const points = ref<Points>()
const rang = ref<Rang>()
const failure = ref('')
const note = ref('')
const writing = ref<'acknowledge' | 'comment'>()
const now = useClock()
const { link } = useLink()

const from = computed(() => (alert.value?.since ?? 0) - MARGIN)
const to = ref(0)
const lines = computed<Line[]>(() => {
  const a = alert.value
  if (!a || a.condition === 'outside' || isOfInstance(a)) return []
  const passed = (kind: Line['kind']) => {
    const number = a.transitions.filter((t) => t.to === kind).at(-1)?.number
    return number === undefined || number === null ? [] : [{ kind, value: number }]
  }
  return [...passed('warning'), ...passed('critical')]
})

async function load() {
  try {
    alert.value = await api.alert(props.id)
    failure.value = ''
    rang.value = await api.rang(props.id)
    to.value = Math.min(Date.now(), (alert.value.ended ?? Date.now()) + MARGIN)
    if (alert.value.series) {
      points.value = (await api.points([alert.value.series], from.value, to.value, 400))[0]
    }
  } catch (e) {
    failure.value = inWords(e)
  }
}
void load()
const stop = useLive().listen({ changed: (what) => what === 'alerts' && void load() })
onScopeDispose(stop)
watch(
  () => Math.floor(now.value / 10_000),
  () => alert.value?.ended === null && void load(),
)

async function say() {
  try {
    const act = writing.value === 'comment' ? api.comment : api.acknowledge
    alert.value = await act(props.id, note.value)
    note.value = ''
    writing.value = undefined
    failure.value = ''
  } catch (e) {
    failure.value = inWords(e)
  }
}

/** The moment in the charts of its instance: the window around it, standing still. */
const moment = computed(() => {
  const a = alert.value
  if (!a) return ''
  const query = new URLSearchParams({
    pick: `${a.instance}`,
    from: new Date(from.value).toISOString(),
    to: new Date(to.value).toISOString(),
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  })
  return `/now?${query}`
})
const inUnit = (a: Alert, value: number | null) =>
  value === null
    ? '—'
    : isOfInstance(a)
      ? `${value} intervals without a reading`
      : number(value, a.unit)
const colourOf = (state: string) =>
  state === 'critical' || state === 'warning' ? state : state === 'not measured' ? 'silent' : ''
const signOf = (state: string) =>
  ({ critical: '◆ ', warning: '◣ ', 'not measured': '◌ ' })[state] ?? ''
const normalWords = (a: Alert) => {
  // whether it is read at all has no normal
  if (isOfInstance(a)) return ''
  return a.normalLow === null || a.normalHigh === null
    ? 'no normal yet'
    : `normal ${range(a.normalLow, a.normalHigh, a.unit)}`
}
const limitWords = (a: Alert) =>
  a.number === null
    ? ''
    : a.condition === 'outside'
      ? `limit ${a.number} spreads from normal`
      : isOfInstance(a)
        ? `limit ${a.number} intervals`
        : `limit ${a.condition === 'below' ? 'below ' : ''}${plain(a.number, a.unit)}`
</script>

<template>
  <section v-if="alert" class="detail" aria-label="Alert">
    <h2 :class="kindOf(alert)">
      {{ SIGN[kindOf(alert)] }} {{ valueOf(alert) }} {{ titleOf(alert) }}
    </h2>
    <p class="soft">
      {{ alert.instanceName }} · {{ alert.state }}
      <template v-if="alert.ended === null">{{ since(alert.since, now) }}</template>
      <template v-else
        >after {{ span(alert.ended - alert.since) }}, {{ day(alert.since) }}
        {{ clock(alert.since) }} – {{ clock(alert.ended) }}</template
      >
      <template v-if="alert.flapping"> · flapping: rose more than three times in an hour</template>
      <template v-if="alert.muted"> · muted by maintenance</template>
    </p>
    <p class="soft">
      {{ [normalWords(alert), limitWords(alert)].filter(Boolean).join(' · ') }}
      <template v-if="alert.worst !== null"> · worst {{ inUnit(alert, alert.worst) }}</template>
    </p>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <BandChart
      v-if="alert.series"
      class="chart"
      :points="points"
      :from="from"
      :to="to"
      :unit="alert.unit"
      :good-end="0"
      :title="alert.title"
      :limits="lines"
      :below="alert.condition === 'below'"
      band
    />
    <table aria-label="Transitions">
      <tbody>
        <tr v-for="(t, i) in alert.transitions" :key="i">
          <td class="soft">{{ clockWithSeconds(t.at) }}</td>
          <td :class="colourOf(t.to)">{{ signOf(t.to) }}{{ t.to }}</td>
          <td class="soft">
            {{ inUnit(alert, t.value)
            }}<template v-if="t.number !== null && !isOfInstance(alert)">
              · {{ t.to === 'settling' || t.to === 'calm' ? 'clear' : 'number' }}
              {{
                alert.condition === 'outside' ? `${t.number} spreads` : plain(t.number, alert.unit)
              }}</template
            ><template v-if="t.distance !== null && alert.condition === 'outside'">
              · {{ t.distance.toFixed(1) }} spreads from normal</template
            >
          </td>
        </tr>
      </tbody>
    </table>
    <ul v-if="alert.acknowledged || alert.notes.length" class="notes">
      <li v-if="alert.acknowledged">
        <span class="soft">{{ clock(alert.acknowledged.at) }} {{ alert.acknowledged.who }}</span>
        acknowledged<template v-if="alert.acknowledged.note"
          >: {{ alert.acknowledged.note }}</template
        >
      </li>
      <li v-for="(n, i) in alert.notes" :key="i">
        <span class="soft">{{ clock(n.at) }} {{ n.who }}</span> {{ n.note }}
      </li>
    </ul>
    <form v-if="writing" class="say" @submit.prevent="say">
      <ElInput
        v-model="note"
        type="textarea"
        :rows="2"
        autofocus
        :placeholder="
          writing === 'comment' ? 'a comment' : 'a note: what you think it is, what you will do'
        "
        :aria-label="writing === 'comment' ? 'Comment' : 'Note'"
      />
      <ElButton type="primary" native-type="submit">{{
        writing === 'comment' ? 'Add the comment' : 'Acknowledge with this note'
      }}</ElButton>
      <ElButton @click="writing = undefined">Cancel</ElButton>
    </form>
    <div v-else class="buttons">
      <ElButton v-if="!alert.acknowledged" type="primary" @click="writing = 'acknowledge'"
        >Acknowledge</ElButton
      >
      <ElButton @click="writing = 'comment'">Comment</ElButton>
      <RouterLink class="link" :to="moment">the charts of that time</RouterLink>
      <RouterLink class="link" :to="link('/limits', { pick: alert.instance })"
        >its limits</RouterLink
      >
    </div>
    <p v-if="rang" class="soft">
      This limit rang {{ rang.times }} {{ rang.times === 1 ? 'time' : 'times' }} here in four weeks,
      {{ span(rang.seconds * 1000) }} in all.
      <SwitchOff :alert="alert" @done="load" />
    </p>
  </section>
  <p v-else-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else class="soft">Fetching the alert …</p>
</template>

<style scoped>
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
.chart {
  height: 180px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
table {
  border-collapse: collapse;
}
td {
  padding: 2px 16px 2px 0;
  vertical-align: top;
}
td:nth-child(2) {
  padding-left: 12px;
  border-left: 2px solid var(--line);
}
.notes {
  list-style: none;
}
.say {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.buttons {
  display: flex;
  align-items: center;
  gap: 12px;
}
.buttons :deep(.el-button + .el-button) {
  margin-left: 0;
}
</style>
