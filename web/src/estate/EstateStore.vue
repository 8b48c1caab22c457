<script setup lang="ts">
import { ElButton, ElCheckbox, ElInputNumber, ElOption, ElSelect } from 'element-plus'
import { computed, onMounted, ref } from 'vue'
import { api, Failure } from '@/api/client'
import type { KeepingClass, StoreSizes } from '@/api/types'
import { byId } from '@/instances/useInstances'
import { clock, day, number, seconds, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { growthInWords, partsOf } from './storeSizes'

/** How large Jam Jar's own store is, of what and of whom, and how long what was read is kept. */
const sizes = ref<StoreSizes>()
const failure = ref('')
const done = ref('')
const now = useClock()

async function attempt(what: () => Promise<unknown>, words = '') {
  failure.value = ''
  done.value = ''
  try {
    await what()
    sizes.value = await api.storeSizes()
    done.value = words
  } catch (e) {
    failure.value = e instanceof Failure ? e.message : String(e)
  }
}
onMounted(() => attempt(async () => {}))

const parts = computed(() => (sizes.value ? partsOf(sizes.value) : []))
const largest = computed(() => Math.max(1, ...parts.value.map((part) => part.bytes)))
const behind = computed(() => {
  const all = sizes.value
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

const change = (one: KeepingClass, readingsDays: number, minutesDays: number | null) =>
  attempt(
    () => api.changeKeeping(one.keep, { readingsDays, minutesDays }),
    `${one.name} is kept for ${readingsDays} days from now on.`,
  )
const readings = (one: KeepingClass, days?: number) =>
  days && change(one, days, one.minutesDays === null ? null : Math.max(days, one.minutesDays))
const minutes = (one: KeepingClass, days?: number | null) =>
  days !== undefined && change(one, one.readingsDays, days)
const keepAs = (id: number, name: string, keep: number) =>
  attempt(() => api.keepAs(id, keep), `What is read of ${name} from now on is kept so.`)
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-if="!sizes && !failure" class="soft">Looking at all that is stored …</p>
  <template v-if="sizes">
    <p class="lead">
      <b>{{ number(sizes.bytes, 'B') }}</b> in the database<template v-if="sizes.free !== null"
        >, <b>{{ number(sizes.free, 'B') }}</b> free on its disk</template
      >. {{ growthInWords(sizes) }}
    </p>
    <p class="soft">
      {{ behind }}
      <span v-if="sizes.setAside" class="warning"
        >◣ {{ sizes.setAside }} entries could not be brought in and were set aside.</span
      >
      Measured {{ span(now - sizes.measuredAt) }} ago.
    </p>
    <p v-if="done" role="status">{{ done }}</p>
    <div class="sides">
      <div>
        <h3>What it is made of</h3>
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
        <h3>How long it is kept</h3>
        <table class="rows">
          <thead>
            <tr>
              <th>Class</th>
              <th>As it was read, days</th>
              <th>Steps of a minute, days</th>
              <th>Oldest day</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in sizes.classes" :key="one.keep">
              <th scope="row">{{ one.name }}</th>
              <td>
                <ElInputNumber
                  :model-value="one.readingsDays"
                  :min="1"
                  :max="36500"
                  :controls="false"
                  size="small"
                  :aria-label="`${one.name}: days as it was read`"
                  @change="(days) => readings(one, days ?? undefined)"
                />
              </td>
              <td class="days">
                <ElInputNumber
                  v-if="one.minutesDays !== null"
                  :model-value="one.minutesDays"
                  :min="one.readingsDays"
                  :max="36500"
                  :controls="false"
                  size="small"
                  :aria-label="`${one.name}: days in steps of a minute`"
                  @change="(days) => minutes(one, days ?? undefined)"
                />
                <ElCheckbox
                  :model-value="one.minutesDays === null"
                  size="small"
                  @change="(ever) => minutes(one, ever ? null : Math.max(180, one.readingsDays))"
                  >for ever</ElCheckbox
                >
              </td>
              <td class="soft">{{ one.oldest === null ? 'none yet' : day(one.oldest) }}</td>
            </tr>
          </tbody>
        </table>
        <p class="soft note">
          Wider steps are kept for ever. A month goes as a whole, once all of it is that old.
        </p>
      </div>
      <div>
        <h3>Of whom</h3>
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
            <tr v-for="one in sizes.instances" :key="one.id">
              <th scope="row">
                {{ byId(one.id).value?.name ?? one.name
                }}<span v-if="one.removed" class="soft"> removed, {{ one.id }}</span>
              </th>
              <td class="figure">{{ number(one.bytes, 'B') }}</td>
              <td class="figure">{{ sizes.days ? number(one.bytesADay, 'B') : '–' }}</td>
              <td>
                <ElSelect
                  v-if="!one.removed"
                  :model-value="one.keep"
                  size="small"
                  :aria-label="`Class of ${one.name}`"
                  @change="(keep: number) => keepAs(one.id, one.name, keep)"
                >
                  <ElOption
                    v-for="kept in sizes.classes"
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
  <ElButton v-else-if="failure" @click="attempt(async () => {})">Look again</ElButton>
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
.days {
  display: flex;
  align-items: center;
  gap: 12px;
}
.rows :deep(.el-input-number) {
  width: 72px;
}
.rows :deep(.el-select) {
  width: 96px;
}
.sides h3 {
  padding: 12px 0 4px;
}
.note {
  padding-top: 4px;
}
</style>
