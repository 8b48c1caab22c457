<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { useKeys } from '@/keys/useKeys'
import { useRowsInView } from '@/list/useRowsInView'
import { onLive } from '@/live/useLive'
import { useInAddress } from '@/window/useInAddress'
import { useWindow } from '@/window/useWindow'
import { grouped } from '@/text/grouped'
import { useInstances } from '@/instances/useInstances'
import { usesOf } from '@/instances/uses'
import { bundleInWords, titleOf, usedFirst, worstFirst } from './alert'
import AlertDetail from './AlertDetail.vue'
import AlertLine from './AlertLine.vue'
import { useAlerts } from './useAlerts'

/** All alerts: those that are open, or all of a time; the picked one beside the list. */
const DAYS = 7
const ORDERS = [
  { key: 'worst', words: 'worst first' },
  { key: 'time', words: 'time' },
  { key: 'instance', words: 'instance' },
  { key: 'limit', words: 'limit' },
]
/** `key` tells it from others; its name may tell for how long it is. */
type AlertGroup = { key: string; name: string; alerts: Alert[] }
/** So many of one instance stand in sight; the rest unfolds. */
const IN_SIGHT = 3

const route = useRoute()
const router = useRouter()
const { open, failure: openFailure } = useAlerts()
const window = useWindow()
const filter = useInAddress('filter', '', 'replace')
const state = computed(() => (route.query.state === 'all' ? 'all' : 'open'))
const by = useInAddress('by', 'worst')
const picked = computed(() => Number(route.query.id) || undefined)
const unfolded = ref(new Set<string>())

const {
  answer: all,
  failure,
  asking,
  again,
} = useAnswer(
  () => (state.value === 'all' ? 'all' : undefined),
  (_, signal) => {
    const live = window.live.value
    const from = live ? Date.now() - DAYS * 86_400_000 : window.from.value
    return api.alerts(Math.round(from), Math.round(live ? Date.now() : window.to.value), signal)
  },
  { instead: () => (window.live.value ? 'live' : `${window.from.value} ${window.to.value}`) },
)
onLive({ changed: (what) => what === 'alerts' && void again(), missed: () => void again() })

const { instances } = useInstances()
const used = (name: string) => {
  const instance = instances.value.find((one) => one.name === name)
  return instance ? usesOf(instance, instances.value).map((use) => use.name) : []
}
const listed = computed<AlertGroup[]>(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  const matching = (state.value === 'open' ? open.value : (all.value ?? [])).filter((a) => {
    const text = [a.subject, a.instanceName, titleOf(a), a.severity, a.state, a.condition]
      .join(' ')
      .toLowerCase()
    return words.every((word) => text.includes(word))
  })
  if (by.value === 'time') {
    return [{ key: '', name: '', alerts: [...matching].sort((a, b) => b.since - a.since) }]
  }
  const sorted = [...matching].sort(worstFirst)
  if (by.value === 'worst') {
    return grouped(sorted, (a) => `${a.bundle}`).map(([key, some]) => {
      const alerts = usedFirst(some, used)
      return { key, name: bundleInWords(alerts, window.now.value), alerts }
    })
  }
  return grouped(sorted, (a) => (by.value === 'limit' ? titleOf(a) : a.subject))
    .map(([name, alerts]) => ({ key: name, name, alerts }))
    .sort((a, b) => a.name.localeCompare(b.name))
})
const shown = (group: AlertGroup) =>
  !group.name || unfolded.value.has(group.key) || group.alerts.some(isFoldedAway(group))
    ? group.alerts
    : group.alerts.slice(0, IN_SIGHT)
/** What is picked is never folded away. */
const isFoldedAway = (group: AlertGroup) => (a: Alert) =>
  a.id === picked.value && group.alerts.indexOf(a) >= IN_SIGHT
const unfold = (key: string) => (unfolded.value = new Set(unfolded.value).add(key))
const flat = computed(() => listed.value.flatMap(shown))

/** What stands one below the other: heads, alerts, and what unfolds the rest. */
type Entry = { key: string; head?: AlertGroup; alert?: Alert; more?: AlertGroup }
const entries = computed<Entry[]>(() =>
  listed.value.flatMap((group): Entry[] => {
    const visible = shown(group)
    const head = group.name && (group.alerts.length > 1 || by.value !== 'worst')
    return [
      ...(head ? [{ key: `head ${group.key}`, head: group }] : []),
      ...visible.map((alert) => ({ key: `${alert.id}`, alert })),
      ...(visible.length < group.alerts.length ? [{ key: `more ${group.key}`, more: group }] : []),
    ]
  }),
)
const list = ref<HTMLElement>()
const { inView, above, below, measure, show } = useRowsInView(
  list,
  () => entries.value.map((entry) => entry.key),
  72,
)
const drawn = computed(() =>
  [...inView.value].flatMap((index) => {
    const entry = entries.value[index]
    return entry ? [{ index, ...entry }] : []
  }),
)

function go(change: Record<string, string | undefined>) {
  void router.push({ query: { ...route.query, ...change } })
}
/** A message links to an alert by when it rose: it may have been told before it had a number. */
const rose = computed(() => String(route.query.rose ?? '') || undefined)
const { answer: risen, failure: notRisen } = useAnswer(
  () => rose.value,
  (words, signal) => api.risen(words, signal),
)
watch(risen, (found) => {
  if (found) {
    const query = { ...route.query, id: `${found.id}`, rose: undefined, state: 'all' }
    void router.replace({ query })
  }
})

function step(by: 1 | -1) {
  const at = flat.value.findIndex((a) => a.id === picked.value)
  const next = flat.value[Math.min(flat.value.length - 1, Math.max(0, at + by))]
  if (next) go({ id: `${next.id}` })
}
useKeys({ ArrowDown: () => step(1), ArrowUp: () => step(-1) })

watch(
  [picked, () => flat.value.length > 0],
  async () => {
    show(entries.value.findIndex((entry) => entry.alert?.id === picked.value))
    await nextTick()
    list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)
</script>

<template>
  <section class="alerts" :class="{ one: picked }" aria-label="Alerts">
    <div class="bar">
      <span>
        <button
          class="link"
          :aria-pressed="state === 'open'"
          @click="go({ state: undefined, id: undefined })"
        >
          open {{ open.length }}
        </button>
        <button
          class="link"
          :aria-pressed="state === 'all'"
          @click="go({ state: 'all', id: undefined })"
        >
          all of {{ window.live.value ? `the last ${DAYS} days` : 'the window' }}
        </button>
      </span>
      <ElInput
        v-model="filter"
        class="filter"
        placeholder="filter by words"
        aria-label="Filter alerts"
        clearable
      />
      <span class="soft">
        by
        <template v-for="(order, i) in ORDERS" :key="order.key"
          ><template v-if="i"> · </template
          ><button class="link" :aria-pressed="by === order.key" @click="by = order.key">
            {{ order.words }}
          </button></template
        >
      </span>
    </div>
    <p v-if="notRisen || failure || openFailure" class="warning" role="alert">
      ◣ {{ notRisen || failure || openFailure }}
    </p>
    <button v-if="picked" type="button" class="link back" @click="go({ id: undefined })">
      ← all alerts
    </button>
    <div class="two">
      <div ref="list" class="list" data-arrows>
        <p v-if="flat.length === 0 && asking" class="soft empty">Fetching the alerts …</p>
        <p v-else-if="flat.length === 0" class="soft empty">
          {{
            filter
              ? 'No alert matches all of these words.'
              : state === 'open'
                ? 'No alert is open. Limits are set in a chart (“limit”), or in the table of an instance (“limits”).'
                : 'No alert in this time.'
          }}
        </p>
        <div v-if="above" :style="{ height: `${above}px` }"></div>
        <div
          v-for="{ index, key, head, alert, more } in drawn"
          :key="key"
          :ref="measure"
          :data-index="index"
          class="entry"
        >
          <h2 v-if="head">
            {{ head.name }} <span class="soft">{{ head.alerts.length }}</span>
          </h2>
          <AlertLine
            v-else-if="alert"
            :alert="alert"
            :now="window.now.value"
            :picked="alert.id === picked"
            @click="go({ id: `${alert.id}` })"
          />
          <button v-else-if="more" type="button" class="link" @click="unfold(more.key)">
            {{ more.alerts.length - IN_SIGHT }} more
            {{ by === 'worst' ? 'of these' : `of ${more.name}` }}
          </button>
        </div>
        <div v-if="below" :style="{ height: `${below}px` }"></div>
      </div>
      <!-- what is being typed to one is never said to another -->
      <AlertDetail v-if="picked" :id="picked" :key="picked" class="of-one" />
      <p v-else-if="flat.length" class="soft pick">Pick an alert to see what happened to it.</p>
    </div>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 16px;
  padding-bottom: 12px;
}
.bar > span:first-child {
  display: flex;
  gap: 16px;
}
.bar > span:last-child {
  margin-left: auto;
}
.filter {
  width: 240px;
}
[aria-pressed='true'] {
  font-weight: 600;
}
[aria-pressed='false'] {
  color: var(--ink-soft);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 5fr);
  gap: 20px;
}
.one .two {
  grid-template-columns: minmax(0, 4fr) minmax(0, 8fr);
}
.of-one {
  position: sticky;
  top: 0;
  align-self: start;
  max-height: calc(100vh - 150px);
  overflow: auto;
}
.entry {
  display: flow-root;
  padding-bottom: 8px;
}
h2 {
  padding-top: 8px;
  font-size: 14px;
}
.empty,
.pick {
  padding: 24px 0;
}
.back {
  display: none;
}
@media (width < 700px) {
  .bar {
    flex-wrap: wrap;
  }
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .one .bar,
  .one .list {
    display: none;
  }
  .back {
    display: block;
    min-height: 44px;
  }
  .of-one {
    position: static;
    max-height: none;
  }
}
</style>
