<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Points, Series } from '@/api/types'
import { SIGN } from '@/alerts/alert'
import PeakForecast from '@/forecast/PeakForecast.vue'
import BandChart from '@/chart/BandChart.vue'
import type { Line } from '@/chart/LimitLines.vue'
import { MOST_LINES, shareOfNormal, TIMES, type ChartLine } from '@/chart/lines'
import { placeAt } from '@/chart/points'
import { useClicked, useMoment, usePinned } from '@/chart/useMoment'
import { linesOf, limitOf, severityOf } from '@/limits/limits'
import { useMarkers } from '@/markers/useMarkers'
import { labelsOf } from '@/series/labels'
import { limitInWords, normalInWords } from '@/series/told'
import RecursBefore from '@/series/RecursBefore.vue'
import ToldValue from '@/series/ToldValue.vue'
import { clockWithSeconds, day, number, plain } from '@/text/format'
import { useClock } from '@/window/useClock'
import ChartFigures from './ChartFigures.vue'
import ChartLegend from './ChartLegend.vue'
import ChartTable from './ChartTable.vue'
import { toldAt } from './toldAt'
import { useBand } from './useBand'
import { useTable } from './useTable'
import { useWork } from '@/work/useWork'

/** One counter as a card: its value with its normal and its limit, now or at the moment under the pointer, over its chart. */
const props = defineProps<{
  series: Series
  points: Points | undefined
  from: number
  to: number
  instance?: string
  /** The instance it is of. */
  of?: number
  /** Its column carries the instance's name. */
  inColumn?: boolean
  colour?: number
  /** Drawn in the same scale beside it. */
  beside?: Points[]
  /** Stands in line with charts that have limits. */
  room?: boolean
  big?: boolean
  /** It cannot be taken away. */
  fixed?: boolean
  live: boolean
  /** Its name is a button that puts another counter in its place. */
  swappable?: boolean
  /** Other points are being fetched for it. */
  busy?: boolean
  /** Several lines in this chart, instead of the one. */
  several?: ChartLine[]
  /** Drawn as shares of its own normal. */
  share?: boolean
  /** Numbers that are being edited, drawn instead of those in force. */
  edited?: Line[]
}>()
const emit = defineEmits<{
  zoom: [from: number, to: number]
  back: []
  open: []
  remove: []
  edit: []
  swap: []
  limit: [kind: Line['kind'], value: number]
}>()

const moment = useMoment()
const pinned = usePinned()
const clicked = useClicked()
const { show } = useWork()
const table = useTable()
const now = useClock()
const band = useBand()
const { here: markers } = useMarkers()
const labels = computed(() => labelsOf(props.series))
const limit = computed(() => limitOf(props.series))
const lines = computed(() => props.edited ?? linesOf(props.series))

const told = computed(() => toldAt(props.series, props.points, moment.value, props.live, props.to))
/** In shares of its own normal everything is drawn in one unit, and limits are left out. */
const drawn = computed(() =>
  props.points && props.share ? shareOfNormal(props.points) : props.points,
)
/** More of them than can be told apart are left out, and said. */
const named = computed(() => props.several?.slice(0, MOST_LINES))
const drawnLines = computed(() =>
  named.value?.map((line) => ({
    ...line,
    points: line.points && props.share ? shareOfNormal(line.points) : line.points,
  })),
)
/** Limits are ruled where all that is drawn has the same. */
const ruled = computed(() => {
  const words = JSON.stringify(lines.value)
  const same = (props.several ?? []).every((line) => JSON.stringify(linesOf(line.series)) === words)
  return props.share || !same ? [] : lines.value
})
function pin() {
  if (pinned.value === undefined || props.of === undefined) return
  const value = toldAt(props.series, props.points, pinned.value, props.live, props.to).value
  clicked.value = { instance: props.of, series: props.series, value }
}
/** Point by point, with the arrows. */
const stepping = ref(false)
function step(by: 1 | -1) {
  const at = props.points?.at ?? []
  if (!props.points || !at.length) return
  const here = moment.value === undefined ? at.length : placeAt(props.points, moment.value)
  stepping.value = true
  moment.value = at[Math.min(at.length - 1, Math.max(0, here + by))]
}
function leave() {
  stepping.value = false
  moment.value = pinned.value
}
/** The first words of the reason: the chart under the pointer has the rest. */
const why = computed(() => {
  const at = moment.value
  if (at === undefined) return props.series.why || 'not yet known'
  const span = props.points?.spans.find((s) => at >= s.from && at <= s.to)
  return span?.why.split(':')[0] ?? 'not yet known'
})
const normal = computed(() => normalInWords(told.value, props.series.unit))
const severity = computed(() => severityOf(props.series, told.value.value))
</script>

<template>
  <article
    class="card"
    :class="{ big }"
    tabindex="0"
    :data-series="several ? undefined : series.id"
    :aria-busy="busy"
    :aria-label="`${series.title} ${labels} ${instance ?? ''}`"
    @keydown.enter.self="emit('open')"
    @keydown.left.exact.self.prevent="step(-1)"
    @keydown.right.exact.self.prevent="step(1)"
    @blur="stepping && leave()"
    @keydown.delete.self="fixed || emit('remove')"
  >
    <header>
      <h2 :title="series.meaning">
        <button v-if="swappable" type="button" class="plain name" @click="emit('swap')">
          {{ series.title }}</button><template v-else>{{ series.title }}</template
        ><span v-if="labels" class="soft"> · {{ labels }}</span
        ><span v-if="instance && !inColumn" class="soft"> · {{ instance }}</span>
      </h2>
      <strong
        v-if="!several && told.value !== null"
        class="value"
        data-testid="value"
        :aria-live="stepping ? 'polite' : 'off'"
        ><ToldValue
          :value="told.value"
          :unit="series.unit"
          :severity="severity"
          :distance="told.now ? series.distance : null"
      /></strong>
      <span v-else-if="!several" class="value silent" data-testid="value">◌ {{ why }}</span>
    </header>
    <ChartLegend
      v-if="several && named"
      :lines="named"
      :left-out="several.length - named.length"
      :live="live"
      :to="to"
      :share="share"
    />
    <p v-else class="facts soft">
      <span
        class="ends"
        :title="
          told.low === null
            ? 'Normal is learned from an hour of readings and more.'
            : series.trouble
              ? 'It is good at zero only: nothing else is normal.'
              : `90 % of what was seen in ${series.normalFrom} lay within`
        "
        >{{ normal }}</span
      >
      <span
        v-if="told.learned !== null && told.low !== null"
        title="What was normal at that time is not kept any more: this is the oldest that is."
        >as learned {{ day(told.learned) }}</span
      >
      <RecursBefore
        v-if="series.trouble && (big || (told.value ?? 0) > 0)"
        :series="series.id"
        :unit="series.unit"
      />
      <span class="ends">
        <template v-if="lines.length"
          >limit {{ limit?.condition === 'below' ? 'below ' : ''
          }}<template v-for="line in lines" :key="line.kind"
            >{{ plain(line.value, series.unit) }} {{ SIGN[line.kind] }}&nbsp;</template
          ></template
        ><template v-else>{{ limitInWords(series) }}</template>
      </span>
      <span v-if="told.when" class="when">at {{ clockWithSeconds(told.when) }}</span>
      <span v-if="!big" class="tools">
        <button class="link" type="button" title="how it is made: key w" @click="show(series.id)">
          how
        </button>
        <button class="link" type="button" @click="emit('edit')">limit</button>
        <button class="link" type="button" @click="emit('open')">open</button>
      </span>
    </p>
    <p v-if="!points" class="soft fetching" role="status">Fetching the chart …</p>
    <BandChart
      class="chart"
      :class="{ blank: !points }"
      :points="drawn"
      :lines="drawnLines"
      :from="from"
      :to="to"
      :unit="share ? TIMES : series.unit"
      :good-end="share ? 0 : series.goodEnd"
      :title="series.title"
      :colour="colour"
      :beside="beside"
      :room="room"
      :brief="!big"
      :limits="ruled"
      :below="limit?.condition === 'below'"
      :editable="edited !== undefined"
      :band="band"
      :markers="markers"
      @zoom="(f, t) => emit('zoom', f, t)"
      @back="emit('back')"
      @pin="pin"
      @limit="(kind, value) => emit('limit', kind, value)"
    />
    <ChartFigures v-if="big" :series="series" :from="from" :to="to" :live="live" />
    <ChartTable
      v-if="big && table && points"
      :points="points"
      :unit="series.unit"
      :title="series.title"
      :now="now"
    />
    <dl v-if="big" class="about">
      <dt>Means</dt>
      <dd>{{ series.meaning }}</dd>
      <template v-if="series.suggests">
        <dt>Suggests</dt>
        <dd>{{ series.suggests }}</dd>
      </template>
      <template v-if="series.worse !== 'down'">
        <dt>Peaks</dt>
        <dd><PeakForecast :key="series.id" :series="series" /></dd>
      </template>
      <dt>Made</dt>
      <dd>
        <button class="link" type="button" @click="show(series.id)">
          how this value is made <span class="key">w</span>
        </button>
      </dd>
      <dt>Normal</dt>
      <dd>
        {{
          series.normal === null
            ? 'Still learning: it takes 60 minutes of readings.'
            : `${normal.replace('normal ', '')}, middle ${number(series.normal, series.unit)}, from ${series.normalFrom}`
        }}
      </dd>
    </dl>
  </article>
</template>

<style scoped>
.card {
  position: relative;
  display: flex;
  flex-direction: column;
  min-width: 0;
  height: 168px;
  padding: 8px 8px 0 12px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.card.big {
  height: auto;
}
header {
  display: flex;
  align-items: baseline;
  height: 24px;
  justify-content: space-between;
  gap: 8px;
}
h2 {
  overflow: hidden;
  font-size: 14px;
  font-weight: 600;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.name {
  font: inherit;
  color: inherit;
}
.name:hover {
  text-decoration: underline dotted;
}
.value {
  flex: none;
  font-size: 17px;
  font-weight: 600;
}
.value.silent {
  font-size: 13px;
  font-weight: 400;
}
.facts {
  display: flex;
  gap: 12px;
  font-size: 12px;
  white-space: nowrap;
}
.ends {
  overflow: hidden;
  text-overflow: ellipsis;
}
.when {
  margin-left: auto;
}
.tools {
  position: absolute;
  right: 8px;
  display: none;
  gap: 8px;
  padding-left: 8px;
  background: var(--card);
}
.card:hover .tools,
.card:focus-within .tools {
  display: flex;
}
.fetching {
  position: absolute;
  top: 72px;
}
.chart {
  flex: 1;
  margin-left: -12px;
}
.chart.blank {
  visibility: hidden;
}
.card.big .chart {
  flex: none;
  height: calc(100vh - 464px);
  min-height: 220px;
}
.about {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 12px;
  padding: 8px 0;
}
.about dt {
  color: var(--ink-soft);
}
</style>
