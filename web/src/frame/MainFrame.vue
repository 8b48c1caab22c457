<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { useTitle } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useMoment, usePinned } from '@/chart/useMoment'
import FindBox from './FindBox.vue'
import GoingBar from './GoingBar.vue'
import HeadBar from './HeadBar.vue'
import KeysHelp from './KeysHelp.vue'
import { QUESTION_PATHS, questions } from './questions'
import PinnedMoment from './PinnedMoment.vue'
import QuestionBar from './QuestionBar.vue'
import RailStrip from './RailStrip.vue'
import { useMe } from '@/access/useMe'
import { useAlerts } from '@/alerts/useAlerts'
import { useGroups } from '@/groups/useGroups'
import { useInstances } from '@/instances/useInstances'
import { useKeys } from '@/keys/useKeys'
import { onLive } from '@/live/useLive'
import { seriesHere, useWork } from '@/work/useWork'
import FocusTip from '@/tips/FocusTip.vue'
import ShelfList from '@/shelf/ShelfList.vue'
import { usePicked } from '@/window/usePicked'
import { span, windowInWords } from '@/text/format'
import { DEFAULT_WIDTH, useWindow } from '@/window/useWindow'
import { useLink } from '@/window/useLink'

const InstanceForm = defineAsyncComponent(() => import('@/instances/InstanceForm.vue'))
const WorkPanel = defineAsyncComponent(() => import('@/work/WorkPanel.vue'))
const MarkerForm = defineAsyncComponent(() => import('@/markers/MarkerForm.vue'))

const route = useRoute()
const { told } = useAlerts()
const moment = useMoment()
const pinned = usePinned()
const { instances } = useInstances()
const { picked, pick, refused } = usePicked()
const window = useWindow()
const { go } = useLink()
const form = ref<{ id?: number }>()
const help = ref(false)
const bench = ref<HTMLElement>()
const marker = ref<{ id?: number; at?: number }>()
const { work, show } = useWork()
const { may } = useMe()

/** How the value under the focus, else under the pointer, came about. */
function showWork() {
  const series = seriesHere()
  if (series) show(series)
  return series !== undefined
}

/** The next open alert, round and round. */
function nextAlert() {
  const at = told.value.findIndex((a) => `${a.id}` === route.query.id)
  const next = told.value[(at + 1) % Math.max(1, told.value.length)]
  go('/alerts', { id: next?.id })
}

const QUESTIONS = questions([])
const asked = computed(() => QUESTION_PATHS.includes(route.path))
const own = computed(() => instances.value.find((i) => i.id === picked.value[0])?.kind === 'jamjar')

const heading = computed(() => {
  if (route.name === 'alerts') return 'Alerts'
  if (route.name === 'shelf') return 'Whole shelf'
  if (route.name === 'first') return 'One moment'
  if (route.name === 'endpoints') return 'End points'
  if (route.name === 'recipes') return 'Recipes'
  if (route.name === 'estate') return 'Estate'
  if (route.name === 'moved') return 'What moved'
  if (route.name === 'together') return 'Side by side'
  if (route.name === 'about') return 'About'
  if (route.name === 'account') return 'Your account'
  if (route.name === 'people') return 'People and programs'
  if (route.name === 'audit') return 'Who did what'
  if (route.name === 'settings') return 'How it is set'
  if (route.name === 'telling') return 'Telling'
  const names = picked.value.map((id) => instances.value.find((i) => i.id === id)?.name ?? `${id}`)
  const limits = route.name === 'limits'
  if (route.name === 'applications' && !names.length) return 'All application servers'
  return limits ? (names.length ? `Limits of ${names[0]}` : 'All limits') : names.join(', ')
})

// a moment of another window is not that of this one
watch(
  () => [route.query.w, route.query.from, route.query.to].join(),
  () => {
    pinned.value = undefined
    moment.value = undefined
  },
)
const past = computed(() => ({
  words: windowInWords(window.from.value, window.to.value),
  ago: span(window.now.value - window.to.value),
}))
/** What is asked, about what: so that tabs and the history tell one from another. */
useTitle(
  computed(() => {
    const question = QUESTIONS.find((q) => q.path === route.path)?.name
    return [question === heading.value ? '' : question, heading.value, 'Jam Jar']
      .filter(Boolean)
      .join(' · ')
  }),
)

onMounted(() => void useGroups().reload())
onLive({
  removed: (id) => {
    if (picked.value.includes(id)) pick(picked.value.filter((other) => other !== id))
  },
})

useKeys({
  '[': () => window.move(-0.5),
  ']': () => window.move(0.5),
  '{': () => window.widen(-1),
  '}': () => window.widen(1),
  '0': () => window.goLive(),
  a: nextAlert,
  m: () => may('act') && (marker.value = { at: moment.value }),
  w: showWork,
  '?': () => (help.value = true),
  ArrowLeft: (event) => event.shiftKey && window.move(-0.5),
  ArrowRight: (event) => event.shiftKey && window.move(0.5),
  ArrowUp: (event) => event.shiftKey && window.widen(1),
  ArrowDown: (event) => event.shiftKey && window.widen(-1),
})
</script>

<template>
  <div class="frame">
    <button type="button" class="skip" @click="bench?.focus()">to the answers</button>
    <HeadBar @help="help = true"><FindBox /></HeadBar>
    <ShelfList class="shelf-side" @add="form = {}" />
    <main id="answers" ref="bench" class="bench" tabindex="-1">
      <header class="title">
        <h1>{{ heading }}</h1>
        <PinnedMoment v-if="asked" @marker="(at) => (marker = { at })" />
        <button
          v-if="asked && picked.length === 1 && !own"
          v-may="'shape'"
          class="link"
          type="button"
          @click="form = { id: picked[0] }"
        >
          change …
        </button>
        <button v-if="route.name !== 'shelf'" class="link" type="button" @click="pick([])">
          whole shelf
        </button>
      </header>
      <QuestionBar v-if="asked" />
      <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
      <p v-if="asked && !window.live.value" class="past">
        You look at <strong>{{ past.words }}</strong>, {{ past.ago }} ago; the shelf and the head
        tell of now.
        <button type="button" class="link" @click="window.goLive(DEFAULT_WIDTH)">
          back to now <span class="key">0</span>
        </button>
      </p>
      <RouterView />
    </main>
    <RailStrip @marker="(id) => (marker = { id })" />
    <InstanceForm v-if="form" :id="form.id" @close="form = undefined" />
    <MarkerForm v-if="marker" :id="marker.id" :at="marker.at" @close="marker = undefined" />
    <WorkPanel v-if="work" :series="work.series" :at="work.at" @close="work = undefined" />
    <GoingBar />
    <FocusTip />
    <KeysHelp v-if="help" v-model="help" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template: 44px minmax(0, 1fr) 76px / 232px minmax(0, 1fr);
  height: 100vh;
}
.skip {
  position: absolute;
  z-index: 30;
  top: 6px;
  left: -999px;
}
.skip:focus {
  left: 8px;
  padding: 6px 12px;
}
.bench:focus {
  outline: none;
}
.bench {
  overflow: hidden auto;
  padding: 12px 20px;
}
@media (width < 700px) {
  .frame {
    grid-template: 44px minmax(0, 1fr) 76px / minmax(0, 1fr);
  }
  .frame > :deep(.shelf-side) {
    display: none;
  }
  .bench {
    padding: 12px;
  }
}
.past {
  padding: 4px 12px;
  margin-bottom: 8px;
  background: var(--oat);
  border-radius: 4px;
}
@media (width < 480px) {
  .frame {
    grid-template-rows: 44px minmax(0, 1fr);
  }
  .frame > :deep(.rail) {
    display: none;
  }
}
.title {
  display: flex;
  align-items: baseline;
  gap: 16px;
  padding-bottom: 4px;
}
.title h1 {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
