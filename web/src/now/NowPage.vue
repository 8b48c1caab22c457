<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { KINDS } from '@/instances/kinds'
import InstanceNotices from '@/instances/InstanceNotices.vue'
import LinkedTo from '@/instances/LinkedTo.vue'
import { useInstances } from '@/instances/useInstances'
import { usePickedInstances } from '@/instances/usePickedInstances'
import { useKeys } from '@/keys/useKeys'
import { span } from '@/text/format'
import { usePicked } from '@/window/usePicked'
import type { Instance, LimitBody } from '@/api/types'
import { keyOf } from '@/series/useSeries'
import type { Line } from '@/chart/LimitLines.vue'
import { useInAddress } from '@/window/useInAddress'
import LimitEditor from '@/limits/LimitEditor.vue'
import { linesOf } from '@/limits/limits'
import { alone, format, moved, parse, resized, swapped, together, type Placed } from './arrangement'
import ArrangeBar from './ArrangeBar.vue'
import ArrangeTools from './ArrangeTools.vue'
import ChartCard from './ChartCard.vue'
import CounterPicker from './CounterPicker.vue'
import { useBand } from './useBand'
import { linesOfChart } from './linesOfChart'
import { useCharts } from './useCharts'
import { useTable } from './useTable'
import { useLink } from '@/window/useLink'
import TryingPanel from '@/trying/TryingPanel.vue'
import { useWindow } from '@/window/useWindow'
import { useZoom } from '@/window/useZoom'

const MOST_COLUMNS = 4
/** In one chart their names stand at the lines' ends: that takes room. */
const OVERLAID_COLUMNS = 2

const route = useRoute()
const router = useRouter()
const { picked } = usePicked()
const { loaded } = useInstances()
const here = usePickedInstances()
const { link } = useLink()
const one = computed(() => (here.value.length === 1 ? here.value[0] : undefined))
const charts = useCharts(
  picked,
  computed(() => here.value[0]),
)
const window = useWindow()
const { zoom, undo } = useZoom()
const picking = ref(false)
/** Locked until unlocked: nothing moves or goes by a slip. */
const unlocked = ref(false)
/** Several instances in one chart instead of side by side. */
const inOne = useInAddress('one')
/** Everything as a share of its own normal. */
const share = useInAddress('share')
const overlaid = computed(() => inOne.value === '1' && here.value.length > 1)
/** The chart in which another counter is to be drawn too. */
const joining = ref('')
/** The chart whose place another counter is to take. */
const swapping = ref('')
const dragged = ref('')
const band = useBand()
const table = useTable()
const fresh = ref('')

const big = computed(() => (route.query.big ? String(route.query.big) : undefined))
const placed = computed(() => (big.value ? [parse(big.value)] : charts.placed.value))
/** Zoomed in, or on a small screen, they stand below each other. */
const narrow = useMediaQuery('(width < 700px)')
/** Sizes are of one instance: several stand side by side in columns of their own. */
const sized = computed(() => one.value !== undefined && !big.value && !narrow.value)
const columns = computed(() =>
  big.value || narrow.value
    ? 1
    : overlaid.value
      ? OVERLAID_COLUMNS
      : here.value.length === 1
        ? 3
        : Math.min(MOST_COLUMNS, here.value.length),
)
/** Several stand in columns of their own, which carry their names. */
const columned = computed(
  () =>
    !narrow.value &&
    !big.value &&
    !overlaid.value &&
    here.value.length > 1 &&
    here.value.length <= MOST_COLUMNS,
)
const cells = computed(() =>
  placed.value.flatMap((p, place) =>
    (overlaid.value ? here.value.slice(0, 1) : here.value).map((instance, i) => ({
      key: p.key,
      placed: p,
      place,
      instance,
      colour: i + 1,
      ...drawnOf(p, instance),
    })),
  ),
)
const drawnOf = (p: Placed, instance: Instance) =>
  linesOfChart(
    p,
    overlaid.value ? here.value : [instance],
    overlaid.value,
    charts.find,
    (series) => charts.points.value[series],
  )
const spans = (p: Placed) =>
  sized.value ? { gridColumn: `span ${p.wide}`, gridRow: `span ${p.tall}` } : {}

/** Small multiples share one scale: that of all of the row. */
const beside = (p: Placed) =>
  here.value.flatMap((instance) =>
    [p.key, ...p.beside].flatMap((key) => {
      const series = charts.find(instance.id, key)
      return (series && charts.points.value[series.id]) ?? []
    }),
  )
/** The plots of a page stand in line. */
const room = computed(() => cells.value.some((cell) => cell.series && linesOf(cell.series).length))

function setBig(key: string | undefined, edit?: string) {
  void router.push({
    path: route.path,
    query: { ...route.query, big: key, edit, number: undefined },
  })
}

/** As it stands in the address, of its first size. */
const wholeOf = (p: Placed) => format({ ...p, wide: 1, tall: 1 })

/** The chart whose limit is being set: the big one of a single instance. */
const editing = computed(() => (route.query.edit && one.value ? cells.value[0] : undefined))
/** The value at the moment that was clicked on. */
const pointed = computed(() => {
  const number = Number(route.query.number)
  return route.query.number && Number.isFinite(number) ? number : undefined
})
const lines = ref<Line[]>()
/** The limit as it would be saved. */
const draft = ref<LimitBody>()
const editor = ref<InstanceType<typeof LimitEditor>>()
watch(editing, (now) => {
  if (!now) lines.value = draft.value = undefined
})

async function add(key: string) {
  if (joining.value) {
    charts.choose(together(charts.placed.value, joining.value, key))
    return
  }
  if (swapping.value) {
    charts.choose(swapped(charts.placed.value, swapping.value, key))
    swapping.value = ''
    picking.value = false
  } else if (!charts.chosen.value.includes(key)) {
    charts.choose([...charts.placed.value, alone(key)])
  }
  fresh.value = key
  await nextTick()
  document
    .querySelector(`[data-chart="${CSS.escape(key)}"]`)
    ?.scrollIntoView({ block: 'nearest', behavior: 'smooth' })
  setTimeout(() => (fresh.value = ''), 1500)
}

function remove(key: string) {
  if (joining.value) {
    charts.choose(together(charts.placed.value, joining.value, key))
    return
  }
  charts.choose(charts.placed.value.filter((other) => other.key !== key))
}
function pickFor(key = '') {
  swapping.value = key
  unlocked.value = true
  picking.value = true
}
/** Another counter in the same chart: of one unit, or all as shares of their normal. */
function join(key: string) {
  joining.value = key
  unlocked.value = true
  picking.value = true
}
const joined = computed(() => {
  const p = charts.placed.value.find((one) => one.key === joining.value)
  const series = charts.first.value.find((s) => keyOf(s) === joining.value)
  return {
    title: series ? `Beside ${series.title}` : '',
    keys: p?.beside ?? [],
    fitting: charts.first.value.filter(
      (s) => keyOf(s) !== joining.value && (share.value || s.unit === series?.unit),
    ),
  }
})
/** A chart dropped on another takes its place. */
function dropOn(key: string) {
  const to = charts.chosen.value.indexOf(key)
  if (dragged.value && to >= 0) charts.choose(moved(charts.placed.value, dragged.value, to))
  dragged.value = ''
}

useKeys({
  Escape: () => {
    if (big.value) setBig(undefined)
  },
  n: () => (band.value = !band.value),
  t: () => (table.value = !table.value),
  '+': () => pickFor(),
})
watch(
  () => picked.value.join(),
  () => {
    picking.value = false
    unlocked.value = false
  },
)
watch(picking, (open) => {
  if (!open) swapping.value = joining.value = ''
})

const about = computed(() => {
  const i = one.value
  if (!i) return ''
  const started = Number(i.facts.started)
  return [
    KINDS[i.kind] ?? i.kind,
    i.kind === 'postgresql' ? i.facts.version?.split(' ')[0] : i.facts.version,
    ...i.tags,
    i.site,
    i.group,
    started ? `up ${span(window.now.value - started)}` : '',
  ]
    .filter(Boolean)
    .join(' · ')
})
</script>

<template>
  <section class="now" aria-label="Now">
    <InstanceNotices :instances="here" />
    <p v-if="charts.failure.value" class="warning" role="alert">◣ {{ charts.failure.value }}</p>

    <div class="bar">
      <span v-if="one" class="about"
        ><span class="soft">{{ about }}</span> <LinkedTo :instance="one"
      /></span>
      <span class="right">
        <template v-if="big">
          <button v-if="one && !editing" class="link" type="button" @click="setBig(big, 'limit')">
            set a limit
          </button>
          <button class="link" type="button" :aria-pressed="table" @click="table = !table">
            {{ table ? 'without the table' : 'as a table' }} <span class="key">t</span>
          </button>
          <button class="link" type="button" @click="setBig(undefined)">
            all charts <span class="key">Esc</span>
          </button>
        </template>
        <template v-else>
          <RouterLink v-if="one" class="link" :to="link('/limits', { pick: one.id })"
            >limits</RouterLink
          >
          <button class="link" type="button" :aria-pressed="band" @click="band = !band">
            normal {{ band ? 'on' : 'off' }} <span class="key">n</span>
          </button>
          <button
            v-if="here.length > 1"
            class="link"
            type="button"
            :aria-pressed="overlaid"
            @click="inOne = overlaid ? '' : '1'"
          >
            {{ overlaid ? 'side by side' : 'in one chart' }}
          </button>
          <button
            class="link"
            type="button"
            :aria-pressed="share === '1'"
            title="Each number as a share of its own normal at its time: 1 is the middle of it"
            @click="share = share ? '' : '1'"
          >
            {{ share ? 'as numbers' : 'as share of normal' }}
          </button>
          <button class="link" type="button" :aria-pressed="unlocked" @click="unlocked = !unlocked">
            {{ unlocked ? 'lock' : 'arrange' }}
          </button>
          <button class="link" type="button" @click="pickFor()">
            add a chart <span class="key">+</span>
          </button>
        </template>
      </span>
    </div>

    <ArrangeBar
      v-if="here[0] && !big && (unlocked || charts.changed.value)"
      :charts="charts"
      :instance="here[0]"
      @kept="unlocked = false"
    />

    <p v-if="loaded && here.length < picked.length" class="empty">
      An instance of this address is not under watch any more. Pick another one on the left.
    </p>
    <p v-else-if="charts.loading.value" class="empty soft">Fetching the counters …</p>
    <p v-else-if="cells.every((cell) => !cell.series)" class="empty soft">
      Nothing has been read yet. The first reading comes within
      {{ one?.interval ?? 10 }} s of its answer, and the charts begin with it.
    </p>

    <TryingPanel
      v-if="editing?.series"
      :key="editing.series.id"
      :series="editing.series"
      :instance="editing.instance"
      :limit="draft"
      :lines="lines ?? []"
      @limit="(kind, value) => editor?.setLine(kind, value)"
    >
      <LimitEditor
        ref="editor"
        :series="editing.series"
        :instance="editing.instance"
        :number="pointed"
        @lines="lines = $event"
        @draft="draft = $event"
        @saved="charts.reload()"
        @close="setBig(big)"
      />
    </TryingPanel>
    <div
      v-if="columned"
      class="charts names"
      :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }"
    >
      <h2 v-for="(instance, i) in here" :key="instance.id">
        <span class="dot" :style="{ background: `var(--line-${i + 1})` }" /> {{ instance.name }}
      </h2>
    </div>
    <div
      class="charts"
      :style="{
        gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
      }"
    >
      <!-- by its place in the pick: a chart is drawn on, not made anew, for another instance -->
      <template v-for="cell in cells" :key="`${cell.colour} ${cell.key}`">
        <div
          v-if="cell.series"
          class="place"
          :class="{ dragged: dragged === cell.key, bare: big, unlocked: unlocked && !big }"
          :style="spans(cell.placed)"
          :data-chart="cell.key"
          @dragover="dragged && $event.preventDefault()"
          @drop.prevent="dropOn(cell.key)"
        >
          <ChartCard
            :class="{ fresh: fresh === cell.key }"
            :series="cell.series"
            :points="charts.points.value[cell.series.id]"
            :from="charts.shown.value.from"
            :to="charts.shown.value.to"
            :live="charts.shown.value.live"
            :busy="charts.busy.value"
            :instance="here.length > 1 && !overlaid ? cell.instance.name : undefined"
            :of="cell.instance.id"
            :several="cell.several"
            :share="share === '1'"
            :in-column="columned"
            :colour="cell.colour"
            :beside="here.length > 1 && !share ? beside(cell.placed) : undefined"
            :room="room"
            :big="big !== undefined"
            :fixed="!unlocked"
            :swappable="!big"
            :edited="editing === cell ? lines : undefined"
            @swap="pickFor(cell.key)"
            @zoom="zoom"
            @back="undo"
            @open="setBig(wholeOf(cell.placed))"
            @remove="remove(cell.key)"
            @edit="setBig(format(alone(cell.key)), 'limit')"
            @limit="(kind, value) => editor?.setLine(kind, value)"
          />
          <ArrangeTools
            v-if="unlocked && !big && cell.colour === 1"
            :placed="cell.placed"
            :title="cell.series.title"
            :place="cell.place"
            :count="placed.length"
            :sized="sized"
            @move="(to) => charts.choose(moved(charts.placed.value, cell.key, to))"
            @size="(w, t) => charts.choose(resized(charts.placed.value, cell.key, w, t))"
            @swap="pickFor(cell.key)"
            @join="join(cell.key)"
            @remove="remove(cell.key)"
            @drag="dragged = $event ? cell.key : ''"
          />
        </div>
        <p v-else-if="here.length > 1" class="lacking soft">
          {{ cell.instance.name }} does not offer this counter.
        </p>
      </template>
    </div>
    <CounterPicker
      v-if="picking"
      v-model="picking"
      :title="swapping ? 'A counter in its place' : joined.title || 'Counters'"
      :series="joining ? joined.fitting : charts.first.value"
      :charted="swapping ? [] : joining ? joined.keys : charts.chosen.value"
      @add="add"
      @remove="remove"
    />
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding-bottom: 8px;
}
.right {
  display: flex;
  align-items: center;
  flex: none;
  gap: 16px;
  margin-left: auto;
}
.about {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.charts {
  display: grid;
  grid-auto-rows: minmax(168px, auto);
  gap: 12px;
}
.charts.names {
  grid-auto-rows: auto;
  padding-bottom: 4px;
}
.names h2 {
  font-size: 14px;
}
.dot {
  display: inline-block;
  width: 10px;
  height: 10px;
  border-radius: 50%;
}
.place {
  position: relative;
  display: flex;
  min-width: 0;
}
.place :deep(.card) {
  flex: 1;
}
.place:not(.bare) :deep(.card) {
  height: 100%;
}
.place.unlocked :deep(.card) {
  padding-bottom: 26px;
}
.dragged {
  opacity: 0.5;
}
.empty {
  padding: 24px 0;
}
.lacking {
  align-self: center;
  justify-self: center;
}
.fresh {
  animation: flash 1.5s;
}
@keyframes flash {
  from {
    background: var(--plum-soft);
  }
}
</style>
