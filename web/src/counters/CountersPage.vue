<script setup lang="ts">
import '@/look/choices'
import { ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, onMounted, ref, toRaw, watch } from 'vue'
import type { Series } from '@/api/types'
import { SIGN } from '@/alerts/alert'
import { useInstances } from '@/instances/useInstances'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { labelsOf } from '@/series/labels'
import ValueCell from '@/series/ValueCell.vue'
import { alone, listed, onWholeBench } from '@/now/arrangement'
import { firstView, keyOf, useSeriesThen } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import { plain, range } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { usePicked } from '@/window/usePicked'
import { useWork } from '@/work/useWork'
import NotCollected from './NotCollected.vue'
import RankedTable from './RankedTable.vue'
import { search } from './search'
import { useMarked } from './useMarked'
import { useLink } from '@/window/useLink'

/** Every counter of the instance: found by word, by what it counts, by unit, by the question it answers. */
const { picked } = usePicked()
const { instances } = useInstances()
const { go } = useLink()
const { of, loading, failure, when } = useSeriesThen(picked)
const { isMarked, mark } = useMarked()
const instance = computed(() => instances.value.find((i) => i.id === picked.value[0]))
const all = computed(() => of(picked.value[0] ?? 0))

const { show } = useWork()
const words = ref('')
const counts = useInAddress('counts')
const unit = useInAddress('unit')
const own = useInAddress('own')
const ranked = useInAddress('rank')
const open = ref('')
const input = ref<InstanceType<typeof ElInput>>()
onMounted(() => input.value?.focus())
watch(
  () => picked.value[0],
  () => (open.value = ''),
)

const groups = computed(() => [...new Set(all.value.map((s) => s.group))].sort())
const units = computed(() => [...new Set(all.value.map((s) => s.unit))].sort())
const parts = computed(() => {
  const count = new Map<string, number>()
  for (const s of all.value) if (!s.whole) count.set(s.counter, (count.get(s.counter) ?? 0) + 1)
  return count
})
/** Without words one row for each counter; with words each series that fits. */
const leading = computed(() => {
  const seen = new Set<string>()
  return all.value.filter((s) => {
    if (seen.has(s.counter)) return false
    seen.add(s.counter)
    return true
  })
})
const searching = computed(() => words.value.trim() !== '')
/** Of thousands nothing is tracked but that there are others. */
const fitting = computed(() => {
  const list = toRaw(searching.value ? all.value : leading.value)
  if (!counts.value && !unit.value && !own.value) return list
  return list.filter(
    (s) =>
      (!counts.value || s.group === counts.value) &&
      (!unit.value || (s.unit || 'count') === unit.value) &&
      (!own.value || isMarked(s.counter)),
  )
})
const found = computed(() => search(fitting.value, words.value))

/** The numbers that are held against it, each with its sign. */
const limitOf = (s: Series) => {
  const limit = s.limits.find((l) => l.condition === 'above' || l.condition === 'below')
  if (!limit) return s.limits.length ? 'outside normal' : 'none set'
  const numbers = [
    limit.warning === null ? '' : `${plain(limit.warning, s.unit)} ${SIGN.warning}`,
    limit.critical === null ? '' : `${plain(limit.critical, s.unit)} ${SIGN.critical}`,
  ]
  return `${limit.condition} ${numbers.filter(Boolean).join(' ')}`
}
const normalOf = (s: Series) =>
  s.normalLow === null || s.normalHigh === null
    ? 'none yet'
    : range(s.normalLow, s.normalHigh, s.unit)
const COLUMNS: Column<Series>[] = [
  { key: 'counter', title: 'Counter' },
  { key: 'now', title: 'Value' },
  { key: 'normal', title: 'Normal' },
  { key: 'limit', title: 'Limit' },
  { key: 'acts', title: 'What can be done', unseen: true },
]
const titleOf = (counter: string) => all.value.find((s) => s.counter === counter)?.title ?? counter

function chart(s: Series, limit = false) {
  const originals = firstView(all.value)
  const key = keyOf(s)
  const charts = originals.includes(key) ? originals : [...originals, key]
  go('/now', {
    pick: picked.value[0],
    ...(limit ? onWholeBench(s, 'limit') : {}),
    charts: listed(charts.map(alone)),
  })
}
function readWith(counter: string) {
  words.value = titleOf(counter)
  open.value = `${all.value.find((s) => s.counter === counter)?.id ?? ''}`
}
</script>

<template>
  <section aria-label="Counters">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="!picked.length" class="soft empty">Pick an instance on the left.</p>
    <p v-else-if="loading" class="soft empty">Fetching the counters …</p>
    <p v-else-if="!all.length" class="soft empty">
      Nothing has been read yet. The counters come with the first reading.
    </p>
    <RankedTable
      v-else-if="ranked && instance"
      :instance="instance.id"
      :counter="ranked"
      :about="all.find((s) => s.counter === ranked)"
      @close="ranked = ''"
      @chart="(id) => chart(all.find((s) => s.id === id) as Series)"
    />
    <template v-else>
      <div class="bar">
        <ElInput
          ref="input"
          v-model="words"
          class="words"
          placeholder="a word, a name, or a question: who is waiting"
          aria-label="Search counters"
          clearable
          @keydown.esc="input?.blur()"
        />
        <ElSelect
          v-model="counts"
          :empty-values="[null, undefined]"
          aria-label="What it counts"
          class="choice"
        >
          <ElOption value="" label="all it counts" />
          <ElOption v-for="one in groups" :key="one" :value="one" :label="one.replace(/_/g, ' ')" />
        </ElSelect>
        <ElSelect v-model="unit" :empty-values="[null, undefined]" aria-label="Unit" class="choice">
          <ElOption value="" label="every unit" />
          <ElOption
            v-for="one in units"
            :key="one"
            :value="one || 'count'"
            :label="one || 'a count'"
          />
        </ElSelect>
        <button
          class="link"
          type="button"
          :aria-pressed="own === 'yes'"
          @click="own = own ? '' : 'yes'"
        >
          {{ own ? 'all counters' : 'only marked ones' }}
        </button>
        <span class="soft count" role="status"
          >{{ found.length }} of {{ searching ? all.length : leading.length
          }}{{ searching ? ' series' : ' counters' }}</span
        >
      </div>
      <WhenShown :when="when" figures />
      <DataTable
        v-if="found.length"
        label="Counters"
        :columns="COLUMNS"
        :rows="found"
        :row-key="(s) => `${s.id}`"
        :series="(s) => s.id"
        :open="open"
        :about="[picked[0], words, counts, unit, own]"
      >
        <template #counter="{ row: s }">
          <button
            class="plain mark"
            type="button"
            :aria-pressed="isMarked(s.counter)"
            :aria-label="`Mark ${s.title}`"
            @click="mark(s.counter)"
          >
            {{ isMarked(s.counter) ? '●' : '○' }}
          </button>
          <button
            class="link"
            type="button"
            :aria-expanded="open === `${s.id}`"
            @click="open = open === `${s.id}` ? '' : `${s.id}`"
          >
            {{ s.title }}</button><span v-if="!s.whole && searching" class="soft">
            · {{ labelsOf(s) }}</span
          >
        </template>
        <template #now="{ row: s }">
          <ValueCell v-if="s.whole || searching" :series="s" />
          <span v-else class="soft">{{ parts.get(s.counter) }} of them</span>
        </template>
        <template #normal="{ row: s }"
          ><span class="soft">{{ s.whole || searching ? normalOf(s) : '' }}</span></template
        >
        <template #limit="{ row: s }"
          ><span class="soft">{{ limitOf(s) }}</span></template
        >
        <template #acts="{ row: s }">
          <div class="acts">
            <button
              v-if="parts.get(s.counter)"
              class="link"
              type="button"
              @click="ranked = s.counter"
            >
              rank {{ parts.get(s.counter) }}
            </button>
            <button
              v-if="s.whole || searching"
              class="link"
              type="button"
              title="how its value is made: key w"
              @click="show(s.id)"
            >
              how
            </button>
            <button class="link" type="button" @click="chart(s)">chart</button>
            <button class="link" type="button" @click="chart(s, true)">limit</button>
          </div>
        </template>
        <template #more="{ row: s }">
          <p>{{ s.meaning }} {{ s.suggests }}</p>
          <p v-if="s.questions.length">
            <span class="soft">Answers:</span> {{ s.questions.join(' ') }}
          </p>
          <p v-if="s.readWith.length">
            <span class="soft">Read it with: </span>
            <button
              v-for="other in s.readWith"
              :key="other"
              class="link other"
              type="button"
              @click="readWith(other)"
            >
              {{ titleOf(other) }}
            </button>
          </p>
          <p class="soft">
            Read every {{ s.interval }} s as {{ s.counter }}, a {{ s.shape
            }}{{ s.unit ? `, in ${s.unit}` : '' }}.
          </p>
        </template>
      </DataTable>
      <NotCollected
        v-if="instance && !own"
        :key="instance.recipe"
        :recipe="instance.recipe"
        :words="words"
        :counts="counts"
        :unit="unit"
      />
      <p v-if="!found.length" class="soft empty">
        {{
          own && !words
            ? 'No counter is marked yet: the circle before its name marks it.'
            : 'No counter matches all of this. Fewer words find more.'
        }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 4px 0 12px;
}
.words {
  width: 320px;
}
.choice {
  width: 150px;
}
.count {
  margin-left: auto;
}
.mark {
  margin-right: 8px;
  color: var(--ink-soft);
}
.mark[aria-pressed='true'] {
  color: var(--plum);
}
.acts {
  text-align: right;
  white-space: nowrap;
}
.acts .link:not(:last-child) {
  margin-right: 16px;
}
.other {
  margin: 0 6px;
}
.empty {
  padding: 12px 0;
}
</style>
