<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, inWords } from '@/api/client'
import type { Instance, LimitBody, Series, TriedAlert } from '@/api/types'
import BandChart from '@/chart/BandChart.vue'
import type { Line } from '@/chart/LimitLines.vue'
import { COUNTS, isDownwards, isOnAxis } from '@/limits/limits'
import { useMarkers } from '@/markers/useMarkers'
import { labelsOf } from '@/series/labels'
import { momentInWords, number, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useLink } from '@/window/useLink'
import NoiseCurve from './NoiseCurve.vue'
import { figuresOf, overWhat } from './tried'
import { useTrying } from './useTrying'

/** The limit that is being set, tried on the past weeks while its number is dragged. */
const props = defineProps<{
  series: Series
  instance: Instance
  /** Undefined until the editor has told it. */
  limit: LimitBody | undefined
  lines: Line[]
}>()
const emit = defineEmits<{ limit: [kind: Line['kind'], value: number] }>()

const WEEKS = [2, 4, 6]
const SOON = 24 * 3_600_000
const weeks = ref(6)
const wanted = ref(1)
const now = useClock()
const { go } = useLink()
const { reload } = useMarkers()
const lowest = computed(
  () => (props.limit?.warning == null ? 'critical' : 'warning') as Line['kind'],
)
const nothing = computed(() => props.limit?.warning == null && props.limit?.critical == null)
const outside = computed(() => !!props.limit && !isOnAxis(props.limit))
const unit = computed(() =>
  props.limit?.condition === 'outside'
    ? '×'
    : (COUNTS[props.limit?.condition ?? ''] ?? props.series.unit),
)

const { tried, failure, cannot, others, untried, points, again } = useTrying(props, weeks, wanted)
const figures = computed(() => (tried.value ? figuresOf(tried.value) : []))
const share = (at: number) => {
  const { from, to } = tried.value ?? { from: 0, to: 1 }
  return ((at - from) / (to - from)) * 100
}
const style = (from: number, to: number) => ({
  left: `${share(Math.max(from, tried.value?.from ?? 0))}%`,
  width: `max(6px, ${share(to) - share(from)}%)`,
})

/** A critical number that is nearer would ring all the same: it moves along. */
function take(value: number) {
  const critical = props.limit?.critical ?? null
  emit('limit', lowest.value, value)
  const nearer =
    critical !== null &&
    (props.limit && isDownwards(props.limit) ? critical > value : critical < value)
  if (lowest.value === 'warning' && nearer) emit('limit', 'critical', value)
}

const chosen = ref<TriedAlert>()
watch(
  () => tried.value?.alerts,
  (all) =>
    (chosen.value = all?.find(
      (one) => one.rose === chosen.value?.rose && one.series === chosen.value?.series,
    )),
)
const told = (alert: TriedAlert) =>
  [
    alert.severity === 'critical' ? '◆' : '◣',
    alert.instance === props.instance.id ? '' : alert.instanceName,
    labelsOf(alert),
    momentInWords(alert.rose, now.value),
    `for ${span(alert.until - alert.rose)}`,
    alert.worst === null ? '' : `worst ${number(alert.worst, props.series.unit)}`,
    alert.incident ? 'an incident is marked' : alert.noise ? 'marked as noise' : '',
  ]
    .filter(Boolean)
    .join(' · ')
/** What each is told by, worked out once for its place and for who reads it aloud. */
const marks = computed(() =>
  (tried.value?.alerts ?? []).map((alert) => ({
    alert,
    words: told(alert),
    style: style(alert.rose, alert.until),
  })),
)
function open(alert: TriedAlert) {
  const about = Math.max(10 * 60_000, (alert.until - alert.since) / 2)
  go('/now', {
    pick: alert.instance,
    w: undefined,
    from: new Date(alert.since - about).toISOString(),
    to: new Date(Math.min(now.value, alert.until + about)).toISOString(),
  })
}
const unmarked = ref('')
const marking = ref(false)
async function was(kind: 'incident' | 'noise', alert: TriedAlert) {
  unmarked.value = ''
  marking.value = true
  try {
    await api.addMarker({
      kind,
      title: `${props.series.title}${labelsOf(alert) ? ` · ${labelsOf(alert)}` : ''} of ${alert.instanceName}`,
      note: '',
      from: alert.since,
      to: Math.min(alert.until, alert.since + SOON),
      reach: { level: 'instance', of: `${alert.instance}` },
    })
    again()
    await reload()
  } catch (e) {
    unmarked.value = inWords(e)
  } finally {
    marking.value = false
  }
}
</script>

<template>
  <section class="trying" aria-label="Tried on the past">
    <div class="past">
      <div class="card">
        <h2>
          Tried on the past
          <select v-model.number="weeks" aria-label="How many weeks">
            <option v-for="n in WEEKS" :key="n" :value="n">{{ n }} weeks</option>
          </select>
          <span v-if="tried" class="soft">{{ overWhat(tried) }}</span>
        </h2>
        <p v-if="cannot" class="soft">{{ cannot }}</p>
        <p v-else-if="nothing" class="soft">
          Type a warning or a critical number, and see what it would have told.
        </p>
        <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
        <p v-else-if="!tried && !cannot" class="soft">Judging the past weeks …</p>
        <div v-if="tried" class="plot">
          <BandChart
            :points="points"
            :from="tried.from"
            :to="tried.to"
            :unit="series.unit"
            :good-end="series.goodEnd"
            :title="`${series.title}, tried`"
            :limits="lines"
            :below="limit?.condition === 'below'"
            :room="true"
            :editable="!outside"
            @limit="(kind, value) => emit('limit', kind, value)"
          />
        </div>
        <template v-if="tried && !nothing">
          <div class="row">
            <span class="soft">would have risen</span>
            <div class="track">
              <button
                v-for="{ alert, words, style: place } in marks"
                :key="`${alert.series} ${alert.rose}`"
                type="button"
                class="plain alert"
                :class="[
                  alert.severity,
                  { hollow: !alert.incident, noise: alert.noise, on: chosen === alert },
                ]"
                :style="place"
                :title="words"
                :aria-label="words"
                @click="chosen = alert"
              />
            </div>
          </div>
          <div v-if="tried.incidents.length" class="row">
            <span class="soft">incidents marked</span>
            <div class="track">
              <span
                v-for="one in tried.incidents"
                :key="one.marker"
                class="incident"
                :style="style(one.from, one.to)"
                :title="`${one.title}: ${one.after === null ? 'missed' : `caught after ${span(one.after)}`}`"
                >{{ one.after === null ? '✕' : '✓' }}</span
              >
            </div>
          </div>
          <p v-if="chosen" class="chosen" role="status">
            {{ told(chosen) }}
            <button type="button" class="link" @click="open(chosen)">open that moment</button>
            <template v-if="!chosen.incident && !chosen.noise">
              <button
                type="button"
                class="link"
                :disabled="marking"
                @click="was('incident', chosen)"
              >
                was real
              </button>
              <button type="button" class="link" :disabled="marking" @click="was('noise', chosen)">
                was noise
              </button>
            </template>
          </p>
          <p v-else-if="tried.alerts.length" class="soft chosen">
            Hollow: no incident is marked there. Click one to look at it, and to say what it was.
          </p>
          <p v-if="unmarked" class="warning" role="alert">◣ {{ unmarked }}</p>
          <dl>
            <div v-for="figure in figures" :key="figure.words">
              <dd>{{ figure.value }}</dd>
              <dt class="soft">{{ figure.words }}</dt>
            </div>
          </dl>
        </template>
      </div>
      <NoiseCurve
        v-if="tried && limit"
        v-model="wanted"
        :numbers="others?.numbers"
        :incidents="tried.incidents.length"
        :number="limit[lowest]"
        :unit="unit"
        :failure="untried"
        :stale="others?.wanted !== wanted"
        @take="take"
      />
    </div>
    <slot />
  </section>
</template>

<style scoped>
.trying {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  align-items: start;
  gap: 12px;
  padding-bottom: 12px;
}
.past {
  display: grid;
  gap: 12px;
}
@media (width < 700px) {
  .trying {
    grid-template-columns: minmax(0, 1fr);
  }
}
.card {
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
h2 {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding-bottom: 4px;
  font-size: 14px;
}
h2 .soft {
  font-weight: 400;
}
.plot {
  display: flex;
  height: 160px;
}
.plot > * {
  flex: 1;
}
/* in line with the plot above */
.row {
  position: relative;
  height: 30px;
  padding: 0 66px 0 52px;
}
.row > .soft {
  position: absolute;
  top: -1px;
  left: 0;
  font-size: 11px;
}
.track {
  position: relative;
  top: 6px;
  height: 24px;
}
.alert,
.incident {
  position: absolute;
}
.alert {
  height: 24px;
  min-width: 6px;
  padding: 6px 0;
}
.alert::before {
  display: block;
  height: 12px;
  border: 2px solid var(--apricot);
  background: var(--apricot);
  content: '';
}
.alert.critical::before {
  border-color: var(--raspberry);
  background: var(--raspberry);
}
.alert.hollow::before {
  background: var(--card);
}
.alert.noise::before {
  border-style: dotted;
}
.alert.on {
  outline: 2px solid var(--plum);
  outline-offset: -3px;
}
.incident {
  top: 6px;
  height: 12px;
  border-top: 3px solid var(--ink);
  font-size: 11px;
  line-height: 1;
}
.chosen {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding-top: 6px;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 28px;
  padding-top: 8px;
}
dl div {
  display: flex;
  flex-direction: column;
}
dd {
  font-size: 18px;
}
dt {
  font-size: 12px;
}
</style>
