<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Instance } from '@/api/types'
import { day, plain } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useWindow } from '@/window/useWindow'
import { leakInWords } from './leak'

/** Is there a leak, and when is the wall reached: with how it is reckoned behind a click. */
const HOUR = 3_600_000
const NOON = 43_200_000
const props = defineProps<{ instance: Instance; named: boolean }>()
const window = useWindow()
const now = useClock()
const at = computed(() => (window.live.value ? undefined : Math.round(window.to.value)))
const { answer, failure } = useAnswer(
  () => props.instance.id,
  (id, signal) => api.leak(id, at.value, signal),
  {
    instead: () => `${props.instance.id} ${at.value}`,
    follows: () => window.live.value && Math.floor(now.value / HOUR),
  },
)
const climbs = computed(() => answer.value?.verdict === 'climbs')
</script>

<template>
  <div class="leak">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <details v-else-if="answer">
      <summary>
        <span v-if="named" class="soft">{{ instance.name }}: </span>
        <component :is="climbs ? 'strong' : 'span'" :class="{ soft: !climbs }">{{
          leakInWords(answer)
        }}</component>
      </summary>
      <p class="soft">
        Looked at is the lowest floor of each whole day since the day after the last start, of the
        last 21, 14, 10, 7, 5 or 4 days: those over which it climbs the most evenly count. It climbs
        where the middle of the slopes between any two days is at least 0.5 % of the maximum a day,
        so many pairs of days climb that chance would do it in one of twenty orders at most, and the
        last three days still climb. The range is that of the middle eight tenths of the slopes.
      </p>
      <p v-if="answer.at.length" class="days">
        <span v-for="(begin, i) in answer.at" :key="begin" class="soft"
          >{{ day(begin + NOON) }}
          {{ answer.floors[i] == null ? '◌' : plain(answer.floors[i], '%') }}</span
        >
      </p>
    </details>
  </div>
</template>

<style scoped>
.leak {
  padding: 2px 0 8px;
}
summary {
  min-height: 24px;
  cursor: pointer;
}
.days {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  padding-top: 4px;
  font-size: 12.5px;
}
</style>
