<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import {
  isPassing,
  kindOf,
  limitOf,
  normalOf,
  SIGN,
  titleOf,
  valueOf,
  whenOf,
} from '@/alerts/alert'
import { useAlerts } from '@/alerts/useAlerts'
import { isOfInstance } from '@/limits/limits'
import { isOwn } from '@/instances/kinds'
import { useInstances } from '@/instances/useInstances'
import { useLive } from '@/live/useLive'
import { isPaused } from '@/shelf/order'
import { isSilent, unreadInWords } from '@/shelf/useShelf'
import { many, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useLink } from '@/window/useLink'
import PageMenu from './PageMenu.vue'

/** Name, find, how much was read and how long ago. A dead stream must not look calm. */
const emit = defineEmits<{ help: [] }>()
const MISSED = 3

const { instances: all, loaded } = useInstances()
const instances = computed(() =>
  all.value.filter((instance) => !isOwn(instance) && !isPaused(instance)),
)
const { connected, heardAt } = useLive()
const now = useClock()

const read = computed(
  () =>
    instances.value.filter(({ state }) => {
      const age = now.value - (state.lastAt ?? 0)
      return state.state === 'reading' && age < MISSED * state.interval * 1000 + 2000
    }).length,
)
/** No room for all global pages in a row. */
const tight = useMediaQuery('(width < 1100px)')
const { counts, told } = useAlerts()
const { link } = useLink()
const silent = computed(() => instances.value.filter(isSilent).length)
/** While something is critical, the oldest stands here in full; what settles is passing. */
const worst = computed(() => told.value.find((a) => kindOf(a) === 'critical' && !isPassing(a)))
const worstWords = computed(() => {
  const a = worst.value
  if (!a) return ''
  const reason = instances.value.find((i) => i.id === a.instance)?.state.reason
  const why = isOfInstance(a) && reason ? `(${reason})` : ''
  const what = [titleOf(a).toLowerCase(), valueOf(a), why].filter(Boolean).join(' ')
  const facts = [normalOf(a), limitOf(a), whenOf(a, now.value)].filter(Boolean).join(', ')
  return `${a.subject}: ${what}, ${facts}`
})
const lost = computed(() => loaded.value && heardAt.value > 0 && !connected.value)
/** Spoken when it changes, not each second. */
const spoken = computed(() =>
  lost.value
    ? 'no word from Jam Jar'
    : `${read.value} of ${many(instances.value.length, 'instance')} read`,
)
const lastAt = computed(() => Math.max(0, ...instances.value.map((i) => i.state.lastAt ?? 0)))
</script>

<template>
  <header class="head" :class="{ alarmed: worst }">
    <RouterLink class="brand" :to="link('/shelf')">Jam Jar</RouterLink>
    <slot />
    <RouterLink
      v-if="worst"
      class="worst critical"
      :to="link('/alerts', { id: worst.id })"
      :title="worstWords"
    >
      {{ SIGN.critical }} {{ worstWords }}
    </RouterLink>
    <p class="unseen" role="status">{{ spoken }}</p>
    <p class="read">
      <span v-if="lost" class="silent">
        ◌ no word from Jam Jar for {{ span(now - heardAt) }}: what you see stands still; trying
        again
      </span>
      <template v-else-if="instances.length">
        <span :class="read < instances.length ? 'silent' : 'soft'"
          >{{ read }} of {{ instances.length }} read<template v-if="lastAt"
            >, {{ span(now - lastAt) }} ago</template
          ></span
        >
        <RouterLink
          v-if="counts.critical"
          class="count critical"
          :to="link('/alerts')"
          :aria-label="`${counts.critical} critical`"
          :title="`${counts.critical} critical`"
          >{{ SIGN.critical }} {{ counts.critical }}</RouterLink
        >
        <RouterLink
          v-if="counts.warning"
          class="count warning"
          :to="link('/alerts')"
          :aria-label="many(counts.warning, 'warning')"
          :title="many(counts.warning, 'warning')"
          >{{ SIGN.warning }} {{ counts.warning }}</RouterLink
        >
        <RouterLink
          v-if="counts.known"
          class="count known"
          :to="link('/alerts')"
          :aria-label="`${counts.known} known`"
          :title="`${counts.known} known: acknowledged, and not worse since`"
          >{{ counts.known }}</RouterLink
        >
        <span v-if="silent" class="silent" :title="unreadInWords(instances)">◌ {{ silent }}</span>
      </template>
    </p>
    <PageMenu :folded="worst !== undefined || tight" @keys="emit('help')" />
  </header>
</template>

<style scoped>
.head {
  display: flex;
  grid-column: 1 / -1;
  align-items: center;
  gap: 20px;
  padding: 0 20px 0 16px;
  background: var(--card);
  border-bottom: 1px solid var(--line);
}
.brand {
  width: 160px;
  color: var(--ink);
  font-size: 17px;
  font-weight: 600;
  text-decoration: none;
}
.worst {
  /* whole, in two lines: it comes before the room to find things in */
  flex: 1 1 480px;
  min-width: 0;
  max-height: 40px;
  overflow: hidden;
  font-size: 13px;
  line-height: 18px;
  text-decoration: none;
}
.alarmed .brand {
  width: auto;
}
@media (width < 700px) {
  .head {
    gap: 12px;
    padding: 0 8px;
  }
  .head :deep(.find-box),
  .worst {
    display: none;
  }
  .brand {
    margin-right: auto;
  }
}
.known {
  color: var(--ink-soft);
  text-decoration: line-through;
}
.count {
  font-weight: 600;
  text-decoration: none;
}
.brand {
  flex: none;
}
.read {
  display: flex;
  flex: none;
  margin-left: auto;
  justify-content: flex-end;
  gap: 12px;
}
</style>
