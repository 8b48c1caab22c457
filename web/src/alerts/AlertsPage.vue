<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, inWords } from '@/api/client'
import type { Alert } from '@/api/types'
import { useKeys } from '@/keys/useKeys'
import { useLive } from '@/live/useLive'
import { clock, plain, range, since, span } from '@/text/format'
import { useWindow } from '@/window/useWindow'
import AlertDetail from './AlertDetail.vue'
import { kindOf, isOfInstance, SIGN, titleOf, useAlerts, valueOf } from './useAlerts'

/** All alerts: those that are open, or all of a time; the picked one beside the list. */
const DAYS = 7
const ORDERS = [
  { key: 'time', words: 'time' },
  { key: 'instance', words: 'instance' },
  { key: 'limit', words: 'limit' },
]

const route = useRoute()
const router = useRouter()
const { open, failure: openFailure } = useAlerts()
const window = useWindow()
const all = ref<Alert[]>()
const failure = ref('')

const state = computed(() => (route.query.state === 'all' ? 'all' : 'open'))
const by = computed(() => String(route.query.by ?? 'time'))
const filter = computed({
  get: () => String(route.query.filter ?? ''),
  set: (words) => void router.replace({ query: { ...route.query, filter: words || undefined } }),
})
const picked = computed(() => Number(route.query.id) || undefined)

async function load() {
  if (state.value === 'open') return
  try {
    const from = window.live.value ? Date.now() - DAYS * 86_400_000 : window.from.value
    const to = window.live.value ? Date.now() : window.to.value
    all.value = await api.alerts(Math.round(from), Math.round(to))
    failure.value = ''
  } catch (e) {
    failure.value = inWords(e)
  }
}
onMounted(load)
watch([state, () => (window.live.value ? 0 : window.from.value)], load)
useLive().listen({ changed: (what) => what === 'alerts' && void load() })

const listed = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  const matching = (state.value === 'open' ? open.value : (all.value ?? [])).filter((a) => {
    const text = [a.instanceName, titleOf(a), a.severity, a.state, a.condition]
      .join(' ')
      .toLowerCase()
    return words.every((word) => text.includes(word))
  })
  const name =
    by.value === 'instance'
      ? (a: Alert) => a.instanceName
      : by.value === 'limit'
        ? (a: Alert) => titleOf(a)
        : undefined
  if (!name) return [{ name: '', alerts: [...matching].sort((a, b) => b.since - a.since) }]
  const groups = new Map<string, Alert[]>()
  for (const a of matching) groups.set(name(a), [...(groups.get(name(a)) ?? []), a])
  return [...groups]
    .map(([group, alerts]) => ({ name: group, alerts }))
    .sort((a, b) => a.name.localeCompare(b.name))
})
const flat = computed(() => listed.value.flatMap((group) => group.alerts))

function go(change: Record<string, string | undefined>) {
  void router.push({ query: { ...route.query, ...change } })
}
function step(by: 1 | -1) {
  const at = flat.value.findIndex((a) => a.id === picked.value)
  const next = flat.value[Math.min(flat.value.length - 1, Math.max(0, at + by))]
  if (next) go({ id: `${next.id}` })
}
useKeys({ ArrowDown: () => step(1), ArrowUp: () => step(-1) })

const now = window.now
const about = (a: Alert) =>
  a.normalLow === null || a.normalHigh === null || isOfInstance(a)
    ? ''
    : `normal ${range(a.normalLow, a.normalHigh, a.unit)} · `
const limitOf = (a: Alert) =>
  a.number === null
    ? ''
    : a.condition === 'outside'
      ? `limit ${a.number} spreads from normal · `
      : isOfInstance(a)
        ? `limit ${a.number} intervals · `
        : `limit ${plain(a.number, a.unit)} · `
const when = (a: Alert) =>
  a.ended === null
    ? since(a.since, now.value)
    : `${clock(a.since)} – ${clock(a.ended)} (${span(a.ended - a.since)})`
</script>

<template>
  <section class="alerts" aria-label="Alerts">
    <div class="bar">
      <span>
        <button class="link" :aria-pressed="state === 'open'" @click="go({ state: undefined })">
          open {{ open.length }}
        </button>
        <button class="link" :aria-pressed="state === 'all'" @click="go({ state: 'all' })">
          all of {{ window.live.value ? `the last ${DAYS} days` : 'the window' }}
        </button>
      </span>
      <ElInput
        v-model="filter"
        class="filter"
        placeholder="filter: a word of name, counter, state"
        aria-label="Filter alerts"
        clearable
      />
      <span class="soft">
        by
        <template v-for="(order, i) in ORDERS" :key="order.key"
          ><template v-if="i"> · </template
          ><button class="link" :aria-pressed="by === order.key" @click="go({ by: order.key })">
            {{ order.words }}
          </button></template
        >
      </span>
    </div>
    <p v-if="failure || openFailure" class="warning" role="alert">◣ {{ failure || openFailure }}</p>
    <div class="two">
      <div class="list">
        <p v-if="flat.length === 0" class="soft empty">
          {{
            filter
              ? 'No alert matches all of these words.'
              : state === 'open'
                ? 'No alert is open. Limits are set in a chart (“limit”), or in the table of an instance (“limits”).'
                : 'No alert in this time.'
          }}
        </p>
        <template v-for="group in listed" :key="group.name">
          <h2 v-if="group.name">{{ group.name }}</h2>
          <button
            v-for="a in group.alerts"
            :key="a.id"
            type="button"
            class="plain alert"
            :class="{ picked: a.id === picked, over: a.ended !== null }"
            :aria-current="a.id === picked"
            @click="go({ id: `${a.id}` })"
          >
            <span class="sign" :class="kindOf(a)">{{ SIGN[kindOf(a)] }}</span>
            <span class="body">
              <span
                ><strong>{{ a.instanceName }}</strong> {{ titleOf(a) }}</span
              >
              <span class="soft"
                ><strong v-if="valueOf(a)" :class="kindOf(a)">{{ valueOf(a) }}</strong> {{ about(a)
                }}{{ limitOf(a) }}{{ when(a) }}</span
              >
              <span class="soft">
                {{ a.state }}<template v-if="a.flapping"> · flapping</template
                ><template v-if="a.muted"> · muted by maintenance</template> ·
                {{
                  a.acknowledged
                    ? `seen ${clock(a.acknowledged.at)}${a.acknowledged.note ? `: ${a.acknowledged.note}` : ''}`
                    : 'nobody yet'
                }}
              </span>
            </span>
          </button>
        </template>
      </div>
      <AlertDetail v-if="picked" :id="picked" :key="picked" />
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
  width: 260px;
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
.list {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
h2 {
  padding-top: 8px;
  font-size: 14px;
}
.alert {
  display: flex;
  gap: 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.alert.over {
  background: none;
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
.empty,
.pick {
  padding: 24px 0;
}
</style>
