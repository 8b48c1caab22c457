<script setup lang="ts">
import { computed } from 'vue'
import type { TellingHours } from '@/api/types'
import { asTime, DAY_CHOICES, fromTime, hoursInWords } from './words'

/** Hours of the week. */
const hours = defineModel<TellingHours>({ required: true })
defineProps<{ of: string }>()
const set = (change: Partial<TellingHours>) => (hours.value = { ...hours.value, ...change })
const time = (field: 'from' | 'to') =>
  computed({
    get: () => asTime(hours.value[field]),
    set: (text) => set({ [field]: fromTime(text) ?? hours.value[field] }),
  })
const from = time('from')
const to = time('to')
const toggle = (day: number) =>
  set({
    days: hours.value.days.includes(day)
      ? hours.value.days.filter((one) => one !== day)
      : [...hours.value.days, day].sort((a, b) => a - b),
  })
</script>

<template>
  <details class="all">
    <summary>
      {{ of }}: <span class="plain">{{ hoursInWords(hours) }}</span>
    </summary>
    <fieldset class="hours">
      <legend class="unseen">{{ of }}</legend>
      <label v-for="[day, words] in DAY_CHOICES" :key="day"
        ><input type="checkbox" :checked="hours.days.includes(day)" @change="toggle(day)" />{{
          words
        }}</label
      >
      <label>from <input v-model.lazy="from" type="time" :aria-label="`${of} from`" /></label>
      <label>to <input v-model.lazy="to" type="time" :aria-label="`${of} to`" /></label>
      <label
        >holidays
        <select
          :value="hours.holidays"
          @change="set({ holidays: ($event.target as HTMLSelectElement).value })"
        >
          <option value="as_any">as any day</option>
          <option value="left_out">left out</option>
          <option value="alone">alone</option>
        </select></label
      >
      <span class="soft">no day ticked is every day; from and to alike is the whole day</span>
    </fieldset>
  </details>
</template>

<style scoped>
.hours {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 4px 0;
  border: 0;
}
summary {
  color: var(--ink-soft);
}
.plain {
  color: var(--ink);
}
label {
  display: flex;
  align-items: center;
  gap: 4px;
}
</style>
