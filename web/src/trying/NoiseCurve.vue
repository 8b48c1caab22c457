<script setup lang="ts">
import { computed } from 'vue'
import type { TriedNumbers } from '@/api/types'
import { plain } from '@/text/format'
import { aWeek, catching, curvePath, placeOf } from './tried'

/** Alerts a week at other numbers, where all incidents are caught, and the number for a wanted noise. */
const props = defineProps<{
  /** Undefined until they were tried. */
  numbers: TriedNumbers | undefined
  /** How many are marked. */
  incidents: number
  number: number | null
  unit: string
  /** Why they could not be tried; empty where they were. */
  failure: string
  /** Whether it was told for another noise than is wanted now. */
  stale: boolean
}>()
const wanted = defineModel<number>({ required: true })
const emit = defineEmits<{ take: [number: number] }>()

const [WIDTH, HEIGHT] = [640, 84]
const curve = computed(() => props.numbers?.points ?? [])
const drawn = computed(() => curvePath(curve.value, WIDTH, HEIGHT))
const good = computed(() => catching(curve.value))
const x = (number: number) => placeOf(curve.value, number) * WIDTH
const ends = computed(() => [curve.value[0], curve.value.at(-1)])
const words = computed(
  () =>
    `Alerts a week by number: ${curve.value
      .filter((_, i) => i % 10 === 0)
      .map((point) => `${plain(point.number, props.unit)} ${aWeek(point.perWeek)}`)
      .join(', ')}`,
)
const WANTED = [0, 0.25, 1, 2, 5]
</script>

<template>
  <section class="card" aria-label="Noise at other numbers">
    <header>
      <h2>Noise at other numbers</h2>
      <p v-if="curve.length">
        For
        <select v-model.number="wanted" aria-label="Wanted alerts a week">
          <option v-for="n in WANTED" :key="n" :value="n">
            {{ n === 0.25 ? 'one a month' : n === 1 ? 'one a week' : n ? `${n} a week` : 'none' }}
          </option>
        </select>
        <template v-if="stale"> …</template>
        <template v-else-if="numbers?.suggestion == null"> there is no number.</template>
        <template v-else
          >:
          <strong>{{ plain(numbers.suggestion, unit) }}</strong>
          {{ ' ' }}
          <button type="button" class="link" @click="emit('take', numbers.suggestion)">
            take it
          </button></template
        >
      </p>
    </header>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="!numbers" class="soft">Trying other numbers …</p>
    <p v-else-if="!curve.length" class="soft">Nothing was read that it could be tried on.</p>
    <template v-else>
      <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT + 34}`" role="img" :aria-label="words">
        <g transform="translate(0 14)">
          <text x="0" y="-4" class="soft">{{ aWeek(drawn.most) }} a week</text>
          <line class="one" x1="0" :x2="WIDTH" :y1="drawn.y(wanted)" :y2="drawn.y(wanted)" />
          <rect
            v-if="good"
            class="good"
            :x="x(good.from)"
            :y="HEIGHT - 4"
            :width="Math.max(3, x(good.to) - x(good.from))"
            height="4"
          />
          <path :d="drawn.path" />
          <line
            v-if="number !== null"
            class="here"
            :x1="x(number)"
            :x2="x(number)"
            y1="0"
            :y2="HEIGHT"
          />
          <text x="0" :y="HEIGHT + 16" class="soft">{{ plain(ends[0]?.number ?? 0, unit) }}</text>
          <text :x="WIDTH" :y="HEIGHT + 16" class="soft end">
            {{ plain(ends[1]?.number ?? 0, unit) }}
          </text>
        </g>
      </svg>
      <p v-if="good" class="soft">
        <span class="mark" aria-hidden="true" />
        {{ good.caught }} of {{ incidents }} incidents caught
      </p>
    </template>
  </section>
</template>

<style scoped>
.card {
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  align-items: baseline;
  padding-bottom: 6px;
}
h2 {
  font-size: 14px;
}
svg {
  display: block;
  width: 100%;
}
text {
  fill: var(--ink-soft);
  font-size: 11px;
}
.end {
  text-anchor: end;
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.one {
  stroke: var(--line);
}
.here {
  stroke: var(--apricot);
  stroke-dasharray: 3 2;
}
.good,
.mark {
  fill: var(--pear);
  background: var(--pear);
}
.mark {
  display: inline-block;
  width: 14px;
  height: 4px;
  vertical-align: middle;
}
</style>
