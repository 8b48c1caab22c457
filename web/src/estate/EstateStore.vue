<script setup lang="ts">
import { useMe } from '@/access/useMe'
import '@/look/choices'
import { ElButton, ElOption, ElSelect } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { byId } from '@/instances/useInstances'
import { clock, day, number, seconds, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import StoreClasses from './StoreClasses.vue'
import { growthInWords, partsOf } from './storeSizes'

const { may } = useMe()

/** How large Jam Jar's own store is, of what and of whom, and how long what was read is kept. */
const AGAIN_MILLIS = 2000
const {
  answer: store,
  failure: unknown,
  again: look,
} = useAnswer(
  () => 'store',
  (_, signal) => api.store(signal),
)
const refused = ref('')
const failure = computed(() => refused.value || unknown.value)
const done = ref('')
const now = useClock()
/** What is told will soon not be so any more; what could not be measured is not measured again by itself. */
const goesOn = computed(
  () => store.value?.measuring || (store.value?.journal && !store.value.notMeasured),
)
useIntervalFn(() => goesOn.value && void look(), AGAIN_MILLIS)

const parts = computed(() => (store.value ? partsOf(store.value) : []))
const largest = computed(() => Math.max(1, ...parts.value.map((part) => part.bytes)))
const behind = computed(() => {
  const all = store.value
  if (!all) return ''
  const packed =
    all.packedUntil === null
      ? ''
      : `Packed up to ${clock(all.packedUntil)}, ${day(all.packedUntil)}.`
  const journal = all.journal
    ? `${number(all.journal, 'B')} of the journal (${seconds(all.behind)}) are not in the database yet.`
    : 'All of the journal is in the database.'
  return `${packed} ${journal}`
})

async function keepAs(id: number, name: string, keep: number) {
  refused.value = done.value = ''
  try {
    await api.keepAs(id, keep)
    done.value = `What is read of ${name} from now on is kept so.`
  } catch (e) {
    refused.value = inWords(e)
  }
  await look()
}
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <template v-if="store">
    <p class="lead">
      <b>{{ number(store.bytes, 'B') }}</b> in the database<template v-if="store.free !== null"
        >, <b>{{ number(store.free, 'B') }}</b> free on its disk</template
      >.
      <template v-if="store.sizes">{{ growthInWords(store.sizes, store.free) }}</template>
    </p>
    <p class="soft">
      {{ behind }}
      <span v-if="store.setAside" class="warning"
        >◣ {{ store.setAside }} entries could not be brought in and were set aside.</span
      >
      <template v-if="store.sizes">Measured {{ span(now - store.sizes.measuredAt) }} ago.</template>
      <template v-if="store.measuring"> Being measured: all that is stored is looked at …</template>
      <span v-if="store.notMeasured" class="warning"
        >◣ It could not be measured: {{ store.notMeasured }}
        <ElButton size="small" @click="look()">measure again</ElButton></span
      >
    </p>
    <p v-if="done" role="status">{{ done }}</p>
    <div class="sides">
      <div>
        <template v-if="store.sizes">
          <h2>What it is made of</h2>
          <table class="rows">
            <tbody>
              <tr v-for="part in parts" :key="part.words">
                <th scope="row">{{ part.words }}</th>
                <td class="bar">
                  <i :style="{ width: `${(100 * part.bytes) / largest}%` }"></i>
                </td>
                <td class="figure">{{ number(part.bytes, 'B') }}</td>
              </tr>
            </tbody>
          </table>
        </template>
        <h2>How long it is kept</h2>
        <StoreClasses :classes="store.classes" @changed="look()" />
      </div>
      <div>
        <h2>Of whom</h2>
        <table class="rows">
          <thead>
            <tr>
              <th>Instance</th>
              <th class="figure">Size</th>
              <th class="figure">A day</th>
              <th>Class</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in store.instances" :key="one.id">
              <th scope="row">
                {{ byId(one.id).value?.name ?? one.name
                }}<span v-if="one.removed" class="soft"> removed, {{ one.id }}</span>
              </th>
              <td class="figure">{{ one.bytes === null ? '…' : number(one.bytes, 'B') }}</td>
              <td class="figure">
                {{ one.bytesADay === null ? '–' : number(one.bytesADay, 'B') }}
              </td>
              <td>
                <ElSelect
                  v-if="!one.removed"
                  :model-value="one.keep"
                  :disabled="!may('administer')"
                  size="small"
                  :aria-label="`Class of ${one.name}`"
                  @change="(keep: number) => keepAs(one.id, one.name, keep)"
                >
                  <ElOption
                    v-for="kept in store.classes"
                    :key="kept.keep"
                    :value="kept.keep"
                    :label="kept.name"
                  />
                </ElSelect>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </div>
  </template>
  <ElButton v-else-if="failure" @click="look()">Look again</ElButton>
</template>

<style scoped>
.lead {
  font-size: 16px;
}
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 32px;
  align-items: start;
}
.bar {
  width: 40%;
}
.bar i {
  display: block;
  min-width: 1px;
  height: 10px;
  background: var(--fill);
}
.figure {
  text-align: right;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.rows :deep(.el-select) {
  width: 96px;
}
.sides h2 {
  font-size: 14px;
  padding: 12px 0 4px;
}
</style>
