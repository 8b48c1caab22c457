<script setup lang="ts">
import { computed } from 'vue'
import { useClicked, useMoment, usePinned } from '@/chart/useMoment'
import { onWholeBench } from '@/now/arrangement'
import { usePickedInstances } from '@/instances/usePickedInstances'
import { momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useLink } from '@/window/useLink'
import { standing } from '@/window/useWindow'

/** The moment that was clicked on in a chart, and what else can be asked of it. */
const moment = useMoment()
const pinned = usePinned()
const now = useClock()
const here = usePickedInstances()
const clicked = useClicked()
const emit = defineEmits<{ marker: [at: number] }>()
const { link } = useLink()
const engine = computed(() => here.value.some((i) => i.kind === 'postgresql'))
/** Statements are counted by the minute: those of some minutes around it. */
const AROUND = 5 * 60_000
const around = computed(() => standing((pinned.value ?? 0) - AROUND, (pinned.value ?? 0) + AROUND))
/** What left its normal with it: half an hour about it. */
const ABOUT = 15 * 60_000
const window = computed(() => standing((pinned.value ?? 0) - ABOUT, (pinned.value ?? 0) + ABOUT))
/** A limit at what it was then, in the chart that was clicked on. */
const limit = computed(() => {
  const at = clicked.value
  return (
    at &&
    link('/now', {
      pick: at.instance,
      ...onWholeBench(at.series, 'limit'),
      number: at.value ?? undefined,
    })
  )
})
/** The parts of the same counter over the window. */
const ranking = computed(() => {
  const at = clicked.value
  return at && !at.series.whole
    ? link('/counters', { pick: at.instance, rank: at.series.counter })
    : undefined
})
function letGo() {
  pinned.value = undefined
  moment.value = undefined
}
</script>

<template>
  <span v-if="pinned !== undefined" class="pinned">
    pinned <strong>{{ momentInWords(pinned, now) }}</strong>
    <template v-if="engine">
      <RouterLink class="link" :to="link('/sessions')">sessions then</RouterLink>
      <RouterLink class="link" :to="link('/locks')">locks then</RouterLink>
      <RouterLink class="link" :to="link('/statements', around)">statements then</RouterLink>
    </template>
    <RouterLink class="link" :to="link('/moved', window)">what else moved</RouterLink>
    <RouterLink v-if="ranking" class="link" :to="ranking">ranking</RouterLink>
    <RouterLink v-if="limit" class="link" :to="limit">limit here</RouterLink>
    <button type="button" class="link" @click="emit('marker', pinned)">mark</button>
    <button type="button" class="link" @click="letGo">let go</button>
  </span>
</template>

<style scoped>
.pinned {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding: 1px 10px;
  background: var(--oat);
  border-radius: 4px;
}
</style>
