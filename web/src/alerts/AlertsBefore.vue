<script setup lang="ts">
import { computed } from 'vue'
import type { Alert, AlertStory } from '@/api/types'
import { many, momentInWords, span } from '@/text/format'
import RecursBefore from '@/series/RecursBefore.vue'
import { useLink } from '@/window/useLink'

/** The same limit on the same series in the six weeks before: how often, how long, and whether this is the longest. */
const props = defineProps<{ alert: Alert; story: AlertStory; now: number }>()
const WEEKS = 42 * 86_400_000
const LEAST = 0.006
const { link } = useLink()

const lasted = (one: { since: number; ended: number | null }) =>
  (one.ended ?? props.now) - one.since
const all = computed(() => [props.alert, ...props.story.earlier])
const longest = computed(() => Math.max(...all.value.map(lasted)))
const bars = computed(() =>
  all.value.map((one) => ({
    id: one.id,
    severity: one.severity,
    left: Math.max(0, 1 - (props.now - one.since) / WEEKS),
    width: Math.max(LEAST, lasted(one) / WEEKS),
    words: `${momentInWords(one.since, props.now)}, ${span(lasted(one))}`,
  })),
)
const words = computed(() => {
  const n = props.story.earlier.length
  if (n === 0) return 'The first of it in six weeks.'
  const isLongest = lasted(props.alert) >= longest.value
  return `${many(n, 'time')} before in six weeks, ${isLongest ? 'this the longest' : `the longest ${span(longest.value)}`}.`
})
</script>

<template>
  <div class="card">
    <h3>This limit before</h3>
    <svg
      v-if="story.earlier.length"
      viewBox="0 0 1000 40"
      preserveAspectRatio="none"
      role="img"
      :aria-label="words"
    >
      <line x1="0" y1="39" x2="1000" y2="39" />
      <rect
        v-for="bar in bars"
        :key="bar.id"
        :class="bar.severity"
        :x="1000 * bar.left"
        :width="1000 * Math.min(bar.width, 1 - bar.left)"
        :y="bar.id === alert.id ? 4 : 20"
        :height="bar.id === alert.id ? 35 : 19"
      >
        <title>{{ bar.words }}</title>
      </rect>
    </svg>
    <p class="soft">
      {{ words }}
      <RouterLink
        v-if="story.earlier[0]"
        class="link"
        :to="link('/alerts', { state: 'all', id: story.earlier[0].id })"
        >the last one</RouterLink
      >
      <RecursBefore
        v-if="story.trouble && alert.series"
        class="habit"
        :series="alert.series"
        :unit="alert.unit"
        :about="alert.since"
      />
    </p>
  </div>
</template>

<style scoped>
svg {
  width: 100%;
  height: 40px;
}
line {
  stroke: var(--line);
}
.habit {
  display: block;
}
rect.warning {
  fill: var(--apricot);
}
rect.critical {
  fill: var(--raspberry);
}
</style>
