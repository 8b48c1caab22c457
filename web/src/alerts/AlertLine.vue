<script setup lang="ts">
import { computed } from 'vue'
import type { Alert } from '@/api/types'
import {
  acknowledgedOf,
  isPassing,
  kindOf,
  limitOf,
  normalOf,
  SIGN,
  titleOf,
  valueOf,
  whenOf,
} from './alert'

/** An alert in a list: value, normal, limit, since when, and whether somebody has seen it. */
const props = defineProps<{ alert: Alert; now: number; picked: boolean }>()
const facts = computed(() =>
  [normalOf(props.alert), limitOf(props.alert), whenOf(props.alert, props.now)]
    .filter(Boolean)
    .join(' · '),
)
</script>

<template>
  <button
    type="button"
    class="plain alert"
    :class="{ picked, passing: isPassing(alert), known: alert.known }"
    :aria-current="picked"
  >
    <span class="sign" :class="kindOf(alert)">{{ SIGN[kindOf(alert)] }}</span>
    <span class="body">
      <span
        ><strong>{{ alert.subject }}</strong> {{ titleOf(alert) }}</span
      >
      <span class="soft"
        ><strong v-if="valueOf(alert)" :class="kindOf(alert)">{{ valueOf(alert) }}</strong>
        {{ facts }}</span
      >
      <span class="soft">
        {{ alert.state
        }}<template v-if="alert.flapping"> · rose more than three times in an hour</template
        ><template v-if="alert.quiet"> · held back: {{ alert.quiet }}</template
        ><template v-if="alert.afterwards"> · judged afterwards</template> ·
        {{ acknowledgedOf(alert, now)
        }}<template v-if="alert.assigned"> · looked after by {{ alert.assigned }}</template>
      </span>
    </span>
  </button>
</template>

<style scoped>
.alert {
  display: flex;
  width: 100%;
  gap: 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.alert.passing {
  background: none;
  border-style: dashed;
}
.known .body > :first-child {
  text-decoration: line-through;
}
.alert.picked {
  border-color: var(--plum);
}
.sign {
  font-size: 15px;
}
.body {
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.body > .soft {
  font-size: 12.5px;
}
</style>
