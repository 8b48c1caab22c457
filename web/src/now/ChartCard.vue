<script setup lang="ts">
import { computed } from 'vue'
import type { Points, Series } from '@/api/types'
import { SIGN } from '@/alerts/useAlerts'
import BandChart from '@/chart/BandChart.vue'
import type { Line } from '@/chart/LimitLines.vue'
import { placeAt } from '@/chart/points'
import { useMoment } from '@/chart/useMoment'
import { linesOf, limitOf, severityOf } from '@/limits/limits'
import { useMarkers } from '@/markers/useMarkers'
import { clockWithSeconds, exact, number, plain, range } from '@/text/format'
import { useBand } from './useBand'

/** One counter as a card: its value with its normal and its limit, now or at the moment under the pointer, over its chart. */
const props = defineProps<{
  series: Series
  points: Points | undefined
  from: number
  to: number
  instance?: string
  colour?: number
  max?: number
  big?: boolean
  /** It cannot be taken away. */
  fixed?: boolean
  live: boolean
  /** Numbers that are being edited, drawn instead of those in force. */
  edited?: Line[]
}>()
const emit = defineEmits<{
  zoom: [from: number, to: number]
  back: []
  open: []
  remove: []
  edit: []
  limit: [kind: Line['kind'], value: number]
}>()

const moment = useMoment()
const band = useBand()
const { here: markers } = useMarkers()
const labels = computed(() => Object.values(props.series.labels).join(', '))
const limit = computed(() => limitOf(props.series))
const lines = computed(() => props.edited ?? linesOf(props.series))

/** At a moment, the reading that holds there; else the latest, or the last of a window that stands still. */
const told = computed(() => {
  const at = moment.value
  const points = props.points
  if (points && (at !== undefined || !props.live)) {
    const i = placeAt(points, at ?? props.to)
    const when = points.at[i]
    if (at !== undefined && (when === undefined || at - when > props.series.interval * 2500)) {
      return { value: null, low: null, high: null, when: at }
    }
    return {
      value: points.mean[i] ?? null,
      low: points.normalLow[i] ?? null,
      high: points.normalHigh[i] ?? null,
      when: at === undefined ? undefined : when,
    }
  }
  return {
    value: props.series.value,
    low: props.series.normalLow,
    high: props.series.normalHigh,
    when: undefined,
  }
})
/** The first words of the reason: the chart under the pointer has the rest. */
const why = computed(() => {
  const at = moment.value
  if (at === undefined) return props.series.why || 'not yet known'
  const span = props.points?.spans.find((s) => at >= s.from && at <= s.to)
  return span?.why.split(':')[0] ?? 'not yet known'
})
const normal = computed(() => {
  const { low, high } = told.value
  return low === null || high === null
    ? 'no normal yet'
    : `normal ${range(low, high, props.series.unit)}`
})
const severity = computed(() => severityOf(props.series, told.value.value))
const outside = computed(() => props.series.limits.find((l) => l.condition === 'outside'))
</script>

<template>
  <article
    class="card"
    :class="{ big }"
    tabindex="0"
    :aria-label="`${series.title} ${labels} ${instance ?? ''}`"
    @keydown.enter.self="emit('open')"
    @keydown.delete.self="fixed || emit('remove')"
  >
    <header>
      <h2 :title="series.meaning">
        {{ series.title }}<span v-if="labels" class="soft"> · {{ labels }}</span
        ><span v-if="instance" class="soft"> · {{ instance }}</span>
      </h2>
      <strong
        v-if="told.value !== null"
        class="value"
        :class="severity"
        data-testid="value"
        :title="exact(told.value, series.unit)"
        >{{ severity ? `${SIGN[severity]} ` : '' }}{{ number(told.value, series.unit) }}</strong
      >
      <span v-else class="value silent" data-testid="value">◌ {{ why }}</span>
    </header>
    <p class="facts soft">
      <span
        class="ends"
        :title="
          told.low === null
            ? 'Normal is learned from an hour of readings and more.'
            : `90 % of what was seen in ${series.normalFrom} lay within`
        "
        >{{ normal }}</span
      >
      <span class="ends">
        <template v-if="lines.length"
          >limit {{ limit?.condition === 'below' ? 'below ' : ''
          }}<template v-for="line in lines" :key="line.kind"
            >{{ plain(line.value, series.unit) }} {{ SIGN[line.kind] }}&nbsp;</template
          ></template
        ><template v-else-if="outside"
          >limit {{ outside.warning ?? outside.critical }} spreads from normal</template
        ><template v-else>{{
          series.why === 'paused' ? 'limits rest while paused' : 'no limit set'
        }}</template>
      </span>
      <span v-if="told.when" class="when">at {{ clockWithSeconds(told.when) }}</span>
      <span v-if="!big" class="tools">
        <button class="link" type="button" @click="emit('edit')">limit</button>
        <button class="link" type="button" @click="emit('open')">open</button>
      </span>
    </p>
    <p v-if="!points" class="soft fetching" role="status">Fetching the chart …</p>
    <BandChart
      v-else
      class="chart"
      :points="points"
      :from="from"
      :to="to"
      :unit="series.unit"
      :good-end="series.goodEnd"
      :title="series.title"
      :colour="colour"
      :max="max"
      :limits="lines"
      :below="limit?.condition === 'below'"
      :editable="edited !== undefined"
      :band="band"
      :markers="markers"
      @zoom="(f, t) => emit('zoom', f, t)"
      @back="emit('back')"
      @limit="(kind, value) => emit('limit', kind, value)"
    />
    <dl v-if="big" class="about">
      <dt>Means</dt>
      <dd>{{ series.meaning }}</dd>
      <template v-if="series.suggests">
        <dt>Suggests</dt>
        <dd>{{ series.suggests }}</dd>
      </template>
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
  height: calc(100vh - 310px);
  min-height: 340px;
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
  flex: 1;
  padding: 24px 0;
}
.chart {
  flex: 1;
  margin-left: -12px;
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
