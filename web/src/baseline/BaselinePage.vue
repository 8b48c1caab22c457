<script setup lang="ts">
import { computed, ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import BandChart from '@/chart/BandChart.vue'
import { usePickedInstances } from '@/instances/usePickedInstances'
import { linesOf, limitOf } from '@/limits/limits'
import { useMarkers } from '@/markers/useMarkers'
import CounterPicker from '@/now/CounterPicker.vue'
import { labelsOf } from '@/series/labels'
import ToldValue from '@/series/ToldValue.vue'
import { onWholeBench } from '@/now/arrangement'
import { firstView, keyOf, useSeries } from '@/series/useSeries'
import { momentInWords, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'
import { useWindow } from '@/window/useWindow'
import BaselineActions from './BaselineActions.vue'
import FrozenList from './FrozenList.vue'
import LearnedFrom from './LearnedFrom.vue'
import { basesInWords, DAYS, weekPoints } from './week'

/** The week as it was learned, with a week of what was over it: what is normal, from what, and is it still? */
const WEEK = 7 * 86_400_000
const here = usePickedInstances()
const instance = computed(() => here.value[0])
const window = useWindow()
const now = useClock()
const { go } = useLink()
const { here: markers } = useMarkers()
const { of, loading } = useSeries(computed(() => (instance.value ? [instance.value.id] : [])))
const all = computed(() => (instance.value ? of(instance.value.id) : []))
const key = useInAddress('of')
const series = computed(() => {
  const first = firstView(all.value)[0]
  const find = (k: string | undefined) => all.value.find((s) => keyOf(s) === k)
  return find(key.value) ?? find(first) ?? all.value[0]
})
const choosing = ref(false)
function choose(chosen: string) {
  key.value = chosen
  choosing.value = false
}

/** The week that the window ends in, one before it, or that of a date. */
const over = useInAddress('over')
const date = computed(() => (/^\d{4}-\d\d-\d\d$/.test(over.value) ? over.value : ''))
const moment = computed(() => {
  if (date.value) return Date.parse(`${date.value}T12:00:00Z`)
  const end = Math.round(window.to.value)
  return over.value === 'before' ? end - WEEK : end
})
const { answer, failure, again } = useAnswer(
  () => series.value?.id,
  (id, signal) =>
    api.baselineWeek(id, moment.value, signal).then((told) => ({ told, at: moment.value })),
  {
    instead: () => `${series.value?.id} ${over.value} ${window.live.value ? '' : window.to.value}`,
    follows: () => window.live.value && Math.floor(now.value / 60_000),
  },
)
const week = computed(() => answer.value?.told)
const points = computed(() => week.value && weekPoints(week.value, now.value))
const from = computed(() => week.value?.at[0] ?? 0)
const to = computed(() => (week.value?.at.at(-1) ?? 0) + 15 * 60_000)
const isNow = computed(() => now.value >= from.value && now.value < to.value)
const today = computed(() =>
  isNow.value
    ? new Intl.DateTimeFormat('en-GB', { weekday: 'long', timeZone: week.value?.zone }).format(
        now.value,
      )
    : '',
)
const lines = computed(() => (series.value ? linesOf(series.value) : []))
const limit = computed(() => series.value && limitOf(series.value))
const share = computed(() => {
  const w = week.value
  return w && w.minutes ? `${Math.round((1000 * w.outside) / w.minutes) / 10} %` : '—'
})
const openAt = (at: number, until: number) => {
  if (!series.value || !instance.value) return
  const around = Math.max(30 * 60_000, until - at)
  go('/now', {
    pick: instance.value.id,
    ...onWholeBench(series.value),
    from: new Date(at - around / 2).toISOString(),
    to: new Date(until + around / 2).toISOString(),
    w: undefined,
  })
}
</script>

<template>
  <section aria-label="Baseline">
    <p v-if="!instance" class="soft empty">Pick an instance on the left.</p>
    <p v-else-if="!series" class="soft empty">
      {{ loading ? 'Fetching the counters …' : 'Nothing has been read of it yet.' }}
    </p>
    <template v-else>
      <div class="head">
        <h2>
          <button type="button" class="plain name" @click="choosing = true">
            {{ [series.title, labelsOf(series)].filter(Boolean).join(' · ') }}
            <span aria-hidden="true">▾</span>
          </button>
        </h2>
        <p class="over">
          <span class="soft">over it:</span>
          <button type="button" class="link" :aria-pressed="!over" @click="over = ''">
            {{ window.live.value ? 'this week' : 'the week of the window' }}
          </button>
          <button
            type="button"
            class="link"
            :aria-pressed="over === 'before'"
            @click="over = 'before'"
          >
            the week before
          </button>
          <label>
            <span class="soft">the week of</span>
            <input
              type="date"
              :value="date"
              aria-label="The week of a date"
              @change="over = ($event.target as HTMLInputElement).value"
            />
          </label>
        </p>
        <BaselineActions
          :key="instance.id"
          :instance="instance"
          :at="window.to.value"
          @learned="again()"
        />
      </div>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <p v-if="!week && !failure" class="soft empty">Adding up the weeks …</p>
      <template v-else-if="week && points">
        <article class="week" aria-label="The week as learned">
          <header>
            <p>
              <strong>The week as learned</strong>{{ ' ' }}
              <span class="soft">
                {{
                  series.trouble
                    ? 'good at zero only: nothing else is normal, however often it comes back'
                    : 'nine tenths of what was seen at a quarter-hour lie in its band'
                }}
                · {{ week.zone }}
              </span>
            </p>
            <strong v-if="isNow && series.value !== null" class="value"
              ><ToldValue :value="series.value" :unit="series.unit" :distance="series.distance"
            /></strong>
          </header>
          <ol
            class="days"
            aria-hidden="true"
            :style="{ paddingRight: `${lines.length ? 66 : 10}px` }"
          >
            <li v-for="name in DAYS" :key="name" :class="{ today: name === today }">
              {{ name }}{{ name === today ? ', today' : '' }}
            </li>
          </ol>
          <BandChart
            class="chart"
            :points="points"
            :from="from"
            :to="to"
            :unit="series.unit"
            :good-end="series.goodEnd"
            :title="`${series.title} through the week`"
            :limits="lines"
            :below="limit?.condition === 'below'"
            band
            :markers="markers"
            @zoom="openAt"
          />
        </article>
        <div class="three">
          <LearnedFrom :week="week" :words="basesInWords(week.bases)" />
          <FrozenList :instance="instance.id" :week="week" :now="now" @changed="again()" />
          <article aria-label="How often outside">
            <h3>How often outside</h3>
            <p class="soft">a calm series is outside one minute in ten</p>
            <p class="large">
              {{ share }}
              <span class="soft">of {{ span(week.minutes * 60_000) }} of this week</span>
            </p>
            <p v-if="week.longestTo" class="soft">
              longest stay outside: {{ span(week.longestTo - week.longestFrom) }},
              <button type="button" class="link" @click="openAt(week.longestFrom, week.longestTo)">
                {{ momentInWords(week.longestFrom, now) }}
              </button>
            </p>
            <p v-else-if="week.minutes" class="soft">It did not leave its band.</p>
            <p v-else class="soft">Nothing of this week can be held against what is normal.</p>
          </article>
        </div>
      </template>
      <CounterPicker
        v-model="choosing"
        title="Whose normal"
        :series="all"
        :charted="[keyOf(series)]"
        @add="choose"
        @remove="choosing = false"
      />
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding: 2px 0 8px;
}
h2 {
  font-size: 15px;
}
.name {
  font-weight: 600;
}
.over {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
}
.over [aria-pressed='true'] {
  font-weight: 600;
}
.over input {
  min-height: 24px;
  font: inherit;
  color: var(--ink);
  background: var(--card);
  border: 1px solid var(--field);
  border-radius: 4px;
}
.week,
.three > * {
  padding: 10px 12px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
header {
  display: flex;
  gap: 12px;
  align-items: baseline;
  justify-content: space-between;
}
.value {
  flex: none;
  font-size: 17px;
}
.days {
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  padding: 6px 0 0 52px;
  margin-left: -12px;
  list-style: none;
}
.days li {
  padding-left: 4px;
  font-size: 12.5px;
  color: var(--ink-soft);
  border-left: 1px solid var(--line);
}
.days .today {
  font-weight: 600;
  color: var(--plum);
}
.chart {
  height: 170px;
  margin-left: -12px;
}
.three {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr) minmax(0, 4fr);
  gap: 10px;
  align-items: start;
  padding-top: 10px;
}
h3 {
  font-size: 14px;
}
.large {
  padding: 4px 0;
  font-size: 17px;
}
.large .soft {
  font-size: 12.5px;
}
.empty {
  padding: 24px 0;
}
@media (width < 900px) {
  .three {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
