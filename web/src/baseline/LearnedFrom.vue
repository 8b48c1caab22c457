<script setup lang="ts">
import type { BaselineWeek } from '@/api/types'
import { day, momentInWords, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { slotsInWords } from './week'

/** What a baseline was learned from, week by week, and what of them was left out and why. */
const MOST = 4
/** A day has the same date at its noon wherever it is looked at. */
const NOON = 43_200_000
defineProps<{ week: BaselineWeek; words: string }>()
const now = useClock()
type Week = BaselineWeek['weeks'][number]
const share = (one: Week) => (one.minutes ? one.counted / (7 * 1440) : 0)
const missing = (one: Week) =>
  one.minutes - one.counted - one.leftOut.reduce((sum, left) => sum + left.minutes, 0)
/** Together what has one reason: of many single quarter-hours the longest stand by themselves. */
const longest = (one: Week) =>
  [...one.leftOut].sort((a, b) => b.minutes - a.minutes || a.first - b.first).slice(0, MOST)
</script>

<template>
  <article aria-label="Learned from">
    <h3>Learned from</h3>
    <p v-if="!week.weeks.length" class="soft">Nothing yet: it takes an hour of readings.</p>
    <ul>
      <li v-for="one in week.weeks" :key="one.monday">
        <span class="when">{{ day(one.monday + NOON) }}</span>
        <span class="soft what">
          <template v-if="!one.leftOut.length">counted</template>
          <template v-for="left in longest(one)" :key="`${left.first} ${left.why}`">
            <span class="part"
              >{{ slotsInWords(left.first, left.last) }} left out: {{ left.why }}</span
            >
          </template>
          <span v-if="one.leftOut.length > MOST" class="part"
            >and {{ one.leftOut.length - MOST }} more stretches</span
          >
          <span v-if="missing(one) > 60" class="part"
            >{{ span(missing(one) * 60_000) }} without a value</span
          >
        </span>
        <span class="bar" :title="`${Math.round(share(one) * 100)} % of the week counted`"
          ><i :style="{ width: `${share(one) * 100}%` }"></i
        ></span>
      </li>
    </ul>
    <p class="soft">
      {{ words
      }}<template v-if="week.learnedAt">
        · learned {{ momentInWords(week.learnedAt, now) }}</template
      >
    </p>
  </article>
</template>

<style scoped>
h3 {
  font-size: 14px;
}
li {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) 64px;
  gap: 8px;
  align-items: baseline;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.what {
  font-size: 12.5px;
}
.part {
  display: block;
}
.bar {
  height: 9px;
  border: 1px solid var(--fill);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--fill);
}
p {
  padding-top: 6px;
  font-size: 12.5px;
}
</style>
