<script setup lang="ts">
import type { Alert } from '@/api/types'
import { isOfInstance, numberOf } from '@/limits/limits'
import { momentInWords } from '@/text/format'
import { judgedInWords } from './alert'

/** All that happened to an alert, in its order. */
defineProps<{ alert: Alert; now: number }>()
const colourOf = (state: string) =>
  state === 'critical' || state === 'warning' ? state : state === 'not measured' ? 'silent' : ''
const signOf = (state: string) =>
  ({ critical: '◆ ', warning: '◣ ', 'not measured': '◌ ' })[state] ?? ''
</script>

<template>
  <table aria-label="Transitions">
    <tbody>
      <tr v-for="(t, i) in alert.transitions" :key="i">
        <td class="soft">{{ momentInWords(t.at, now) }}</td>
        <td :class="colourOf(t.to)">{{ signOf(t.to) }}{{ t.to }}</td>
        <td class="soft">
          {{ judgedInWords(alert, t.value)
          }}<template v-if="t.number !== null && !isOfInstance(alert)">
            · {{ t.to === 'settling' || t.to === 'calm' ? 'clear' : 'limit' }}
            {{ numberOf(alert.condition, t.number, alert.unit) }}</template
          ><template v-if="t.distance !== null && alert.condition === 'outside'">
            · {{ t.distance.toFixed(1) }} × its usual spread</template
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
td {
  padding: 2px 16px 2px 0;
  vertical-align: top;
}
td:nth-child(2) {
  padding-left: 12px;
  border-left: 2px solid var(--line);
}
</style>
