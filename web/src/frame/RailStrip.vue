<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { clock, date, dated, monthOf, ownZone, windowInWords, zone } from '@/text/format'
import { DEFAULT_WIDTH, useWindow, widthInWords } from '@/window/useWindow'
import type { Marker } from '@/api/types'
import { outcomeInWords } from '@/markers/outcome'
import { isSpan, MARKS, useMarkers } from '@/markers/useMarkers'
import { useRailAlerts } from './useRailAlerts'
import { useHoles } from './useHoles'
import { useReach } from './useReach'
import * as scale from './rail'
import { calendarSpan, spaced, ticks, WEEKS, type Span, type Tick } from './rail'
import SpanMenu from './SpanMenu.vue'

/** The time strip: the window as a slide to drag and stretch, stuck to now when live. */
const { from, to, width, live, now, show, goLive, move, widen, inOwnZone } = useWindow()
const emit = defineEmits<{ marker: [id?: number] }>()
const { here: markers } = useMarkers()
const { bars } = useRailAlerts(now)
const { out, reach } = useReach()
const placeOf = (at: number) => scale.placeOf(at, now.value, reach.value)
const momentAt = (place: number) => scale.momentAt(place, now.value, reach.value)
const strip = ref<HTMLElement>()
const size = useElementSize(strip)

const LEAST_WIDTH = 60_000
/** Dropped this near to the right end, the window is live. */
const STICKY = 0.006

const dragged = ref<{ from: number; to: number }>()
const shown = computed(() => dragged.value ?? { from: from.value, to: to.value })
const left = computed(() => placeOf(shown.value.from) * size.width.value)
const right = computed(() => placeOf(shown.value.to) * size.width.value)

const labels = computed(() =>
  spaced(ticks(now.value, reach.value), now.value, size.width.value, reach.value).map((t) => ({
    ...t,
    text: label(t),
  })),
)
const label = ({ kind, at }: Tick) =>
  kind === 'month' ? monthOf(at) : kind === 'week' ? date(at) : clock(at)

const percent = (at: number) => `${placeOf(at) * 100}%`
const markerInWords = (m: Marker) =>
  [`${m.kind}: ${m.title}`, m.note, outcomeInWords(m)].filter(Boolean).join(' — ')
const points = computed(() => markers.value.filter((m) => !isSpan(m)).map((m) => m.from))
const roomAfter = (at: number) => scale.room(at, points.value, now.value, reach.value)
const markStyle = (m: Marker) => ({
  left: percent(m.from),
  // its name ends where the next one or the end of the rail is; its sign stays
  ...(isSpan(m) ? {} : { maxWidth: `max(14px, min(120px, ${roomAfter(m.from) * 100}%))` }),
  width: isSpan(m)
    ? `${Math.max(0.2, (placeOf(m.to ?? now.value) - placeOf(m.from)) * 100)}%`
    : undefined,
})

const holes = useHoles(now)

type Part = 'body' | 'from' | 'to'
let grip: { part: Part; offset: number; moved: boolean } | undefined

const placeIn = (event: PointerEvent) =>
  (event.clientX - (strip.value?.getBoundingClientRect().left ?? 0)) / Math.max(1, size.width.value)

function press(event: PointerEvent, part: Part) {
  if (event.button !== 0) return
  const edge = part === 'from' ? from.value : to.value
  grip = { part, offset: placeOf(edge) - placeIn(event), moved: false }
  strip.value?.setPointerCapture(event.pointerId)
  event.stopPropagation()
}

function drag(event: PointerEvent) {
  if (!grip) return
  grip.moved = true
  const at = momentAt(placeIn(event) + grip.offset)
  if (grip.part === 'from') {
    dragged.value = { from: Math.min(at, to.value - LEAST_WIDTH), to: to.value }
  } else if (grip.part === 'to') {
    dragged.value = { from: from.value, to: Math.max(at, from.value + LEAST_WIDTH) }
  } else {
    dragged.value = { from: at - width.value, to: at }
  }
}

function drop() {
  const chosen = dragged.value
  dragged.value = undefined
  const moved = grip?.moved
  grip = undefined
  if (!chosen || !moved) return
  if (1 - placeOf(chosen.to) < STICKY) goLive(chosen.to - chosen.from)
  else show(chosen.from, chosen.to)
}

/** A click beside the window brings its end there. */
function jump(event: PointerEvent) {
  if (event.button !== 0 || grip) return
  const at = momentAt(placeIn(event))
  if (1 - placeOf(at) < STICKY) goLive()
  else show(at - width.value / 2, at + width.value / 2)
}

function nudge(event: KeyboardEvent) {
  const keys: Record<string, () => void> = {
    ArrowLeft: () => move(-0.1),
    ArrowRight: () => move(0.1),
    ArrowUp: () => widen(1),
    ArrowDown: () => widen(-1),
    End: () => goLive(),
  }
  const act = keys[event.key]
  if (act && !event.shiftKey) {
    event.preventDefault()
    act()
  }
}

function pickSpan(span: Span) {
  const { from: begin, to: end } = calendarSpan(span, now.value, zone.value)
  show(begin, end)
}

const words = computed(() => windowInWords(shown.value.from, shown.value.to))
const widthWords = computed(() =>
  widthInWords(Math.max(1000, Math.round((shown.value.to - shown.value.from) / 1000) * 1000)),
)
</script>

<template>
  <footer class="rail" aria-label="Time">
    <div class="about">
      <strong>{{ words }}</strong>
      <span class="soft"
        >{{ widthWords }} · {{ zone
        }}<template v-if="zone !== ownZone">
          of the link ·
          <button type="button" class="link" @click="inOwnZone">in mine</button></template
        ></span
      >
      <span class="moves soft">
        <button type="button" class="key" title="back ([)" aria-label="Back" @click="move(-0.5)">
          [
        </button>
        <button
          type="button"
          class="key"
          title="forward (])"
          aria-label="Forward"
          @click="move(0.5)"
        >
          ]
        </button>
        <button
          type="button"
          class="key"
          title="narrower ({)"
          aria-label="Narrower"
          @click="widen(-1)"
        >
          {
        </button>
        <button type="button" class="key" title="wider (})" aria-label="Wider" @click="widen(1)">
          }
        </button>
        <SpanMenu @pick="pickSpan" />
        <button
          v-may="'act'"
          type="button"
          class="link"
          title="set a marker (m)"
          @click="emit('marker')"
        >
          mark
        </button>
      </span>
    </div>
    <div
      ref="strip"
      class="strip"
      @pointerdown="jump"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
    >
      <span class="stretch" style="left: 0; width: 46%"
        ><i
          >{{ reach > WEEKS ? `since ${dated(now - reach)}` : 'six weeks' }}
          <button
            type="button"
            class="link"
            :aria-pressed="out"
            :title="out ? 'six weeks again' : 'back to the first that is kept'"
            @pointerdown.stop
            @click="out = !out"
          >
            {{ out ? 'six weeks' : 'all' }}
          </button></i
        ></span
      >
      <span class="stretch" style="left: 46%; width: 31%"><i>last day</i></span>
      <span class="stretch" style="left: 77%; width: 23%"><i>last hour</i></span>
      <span
        v-for="tick in labels"
        :key="tick.at"
        class="tick soft"
        :style="{ left: `${placeOf(tick.at) * 100}%` }"
        >{{ tick.text }}</span
      >
      <span
        v-for="gap in holes"
        :key="gap.left"
        class="hole"
        role="img"
        :style="{ left: `${gap.left * 100}%`, width: `${(gap.right - gap.left) * 100}%` }"
        :title="gap.words"
        :aria-label="gap.words"
      />
      <RouterLink
        v-for="bar in bars"
        :key="bar.id"
        class="bar"
        :class="bar.kind"
        :style="{ left: `${bar.left * 100}%`, width: `${(bar.right - bar.left) * 100}%` }"
        :to="bar.to"
        :title="bar.words"
        :aria-label="bar.words"
        @pointerdown.stop
        ><span v-if="bar.all.length > 1 && bar.right - bar.left > 0.02" class="many">{{
          bar.all.length
        }}</span></RouterLink
      >
      <button
        v-for="m in markers"
        :key="`${m.id} ${m.from}`"
        type="button"
        class="plain marker"
        :class="{ span: isSpan(m) }"
        :style="markStyle(m)"
        :title="markerInWords(m)"
        @pointerdown.stop
        @click="emit('marker', m.id)"
      >
        {{ MARKS[m.kind] }} {{ m.title }}
      </button>
      <div
        class="window"
        role="slider"
        tabindex="0"
        aria-label="Window"
        :aria-valuetext="`${words}${live ? ', live' : ''}`"
        :aria-valuenow="Math.round(right)"
        :aria-valuemin="0"
        :aria-valuemax="Math.round(size.width.value)"
        :style="{ left: `${left}px`, width: `${Math.max(3, right - left)}px` }"
        @pointerdown="press($event, 'body')"
        @keydown="nudge"
      >
        <span class="handle start" @pointerdown="press($event, 'from')" />
        <span class="handle end" @pointerdown="press($event, 'to')" />
      </div>
    </div>
    <button
      class="now"
      type="button"
      :class="{ on: live }"
      :aria-pressed="live"
      title="live (0)"
      @click="goLive(live ? width : width > 86_400_000 ? DEFAULT_WIDTH : width)"
    >
      now<br />{{ live ? 'live' : 'go live' }}
    </button>
  </footer>
</template>

<style scoped>
.rail {
  display: grid;
  grid-template-columns: 232px minmax(0, 1fr) 64px;
  grid-column: 1 / -1;
  background: var(--card);
  border-top: 1px solid var(--line);
}
.about {
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding: 0 12px;
  font-size: 12px;
}
.about strong {
  font-weight: 600;
}
.moves {
  display: flex;
  align-items: center;
  gap: 6px;
}
.moves .key {
  min-width: 24px;
  cursor: pointer;
}
.strip {
  position: relative;
  margin: 0 16px 0 8px;
  touch-action: none;
}
.stretch {
  position: absolute;
  top: 20px;
  bottom: 20px;
  border-left: 1px solid var(--line);
  background: var(--paper);
  color: var(--ink-soft);
  font-size: 12px;
}
.stretch i {
  position: absolute;
  top: -18px;
  left: 4px;
  font-style: normal;
}
.hole {
  position: absolute;
  top: 57px;
  height: 7px;
  background: repeating-linear-gradient(135deg, var(--slate) 0 1px, transparent 1px 4px);
}
.bar {
  position: absolute;
  z-index: 1;
  top: 50px;
  height: 5px;
  background: var(--apricot);
}
.many {
  position: absolute;
  top: -6px;
  left: 2px;
  padding: 0 3px;
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  font-size: 10px;
  line-height: 12px;
}
.bar.critical {
  top: 44px;
  background: var(--raspberry);
}
.bar.silent {
  top: 38px;
  background: var(--slate);
}
.marker {
  position: absolute;
  z-index: 1;
  top: 21px;
  max-width: 120px;
  height: 15px;
  overflow: hidden;
  border-left: 1px dotted var(--ink);
  color: var(--ink);
  font-size: 11px;
  line-height: 14px;
  text-indent: 2px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.marker.span {
  max-width: none;
  background: var(--oat);
}
.tick {
  position: absolute;
  bottom: 2px;
  padding-left: 4px;
  border-left: 1px solid var(--line);
  font-size: 11px;
  line-height: 14px;
  white-space: nowrap;
  pointer-events: none;
}
.window {
  position: absolute;
  top: 16px;
  bottom: 16px;
  border: 2px solid var(--plum);
  border-radius: 4px;
  background: color-mix(in srgb, var(--plum) 14%, transparent);
  cursor: grab;
}
.handle {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 24px;
  cursor: ew-resize;
}
.handle::after {
  position: absolute;
  top: 25%;
  bottom: 25%;
  width: 6px;
  border-radius: 3px;
  background: var(--plum);
  content: '';
}
.start {
  left: -22px;
}
.start::after {
  right: -2px;
}
.end {
  right: -22px;
}
.end::after {
  left: -2px;
}
.now {
  padding: 0;
  border: 0;
  background: none;
  color: var(--plum);
  cursor: pointer;
  font-size: 12px;
  text-align: left;
}
.now.on {
  font-weight: 600;
}
</style>
