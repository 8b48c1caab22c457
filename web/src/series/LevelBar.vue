<script setup lang="ts">
import { computed } from 'vue'
import type { Series } from '@/api/types'
import { limitOf, severityOf } from '@/limits/limits'
import { number } from '@/text/format'

/** A level against its maximum: a bar with the critical or warning limit as a mark, and both numbers. */
const props = defineProps<{ level: Series | undefined; max: Series | undefined; share?: Series }>()

const shown = computed(() => {
  const level = props.level?.value
  const max = props.max?.value
  return level != null && max != null && max > 0 ? Math.min(1, level / max) : undefined
})
const severity = computed(() =>
  props.share ? severityOf(props.share, props.share.value) : undefined,
)
const mark = computed(() => {
  const limit = props.share && limitOf(props.share)
  const at = limit?.critical ?? limit?.warning
  return at == null ? undefined : at / 100
})
</script>

<template>
  <span v-if="!level || level.value === null" class="silent"
    >◌ {{ level?.why ?? 'none there' }}</span
  >
  <span v-else class="level" :data-series="level.id">
    <span v-if="shown !== undefined" class="bar" aria-hidden="true">
      <span class="fill" :class="severity" :style="{ width: `${shown * 100}%` }" />
      <span v-if="mark !== undefined" class="mark" :style="{ left: `${mark * 100}%` }" />
    </span>
    <span :class="severity"
      >{{ number(level.value, level.unit)
      }}<template v-if="max && max.value !== null">
        of {{ number(max.value, max.unit) }}</template
      ></span
    >
  </span>
</template>

<style scoped>
.level {
  display: flex;
  align-items: center;
  gap: 8px;
  white-space: nowrap;
}
.bar {
  position: relative;
  flex: none;
  width: 72px;
  height: 10px;
  border: 1px solid var(--ink-soft);
  border-radius: 2px;
}
.fill {
  display: block;
  height: 100%;
  background: var(--fill);
}
.fill.warning {
  background: var(--apricot);
}
.fill.critical {
  background: var(--raspberry);
}
.mark {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 1px;
  background: var(--ink);
}
</style>
