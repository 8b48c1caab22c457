<script setup lang="ts">
import { useMe } from '@/access/useMe'
import '@/look/choices'
import { ElButton, ElCheckbox, ElInputNumber } from 'element-plus'
import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { KeepingBody, KeepingClass } from '@/api/types'
import { clock, day } from '@/text/format'
import { goingInWords, keptInWords } from './storeSizes'

const { may } = useMe()

/** How long each class is kept; a change says first what goes by it, and can be undone. */
defineProps<{ classes: KeepingClass[] }>()
const emit = defineEmits<{ changed: [] }>()
const UNTIL_IT_GOES = 600_000
const USUAL_MINUTES_DAYS = 180

interface Change {
  of: KeepingClass
  to: KeepingBody
}
const wanted = ref<Change>()
const { answer: going, failure: unknown } = useAnswer(
  () => wanted.value && { keep: wanted.value.of.keep, to: wanted.value.to },
  ({ keep, to }, signal) => api.goingBy(keep, to, signal),
)
const made = ref<Change & { at: number }>()
const failure = ref('')

const shown = (one: KeepingClass) => (wanted.value?.of.keep === one.keep ? wanted.value.to : one)
function want(one: KeepingClass, readingsDays: number, minutesDays: number | null) {
  const same = readingsDays === one.readingsDays && minutesDays === one.minutesDays
  wanted.value = same ? undefined : { of: one, to: { readingsDays, minutesDays } }
}
function readings(one: KeepingClass, days?: number) {
  const minutes = shown(one).minutesDays
  if (days) want(one, days, minutes === null ? null : Math.max(days, minutes))
}
const minutes = (one: KeepingClass, days?: number | null) =>
  days !== undefined && want(one, shown(one).readingsDays, days)
const ever = (one: KeepingClass, yes: boolean) =>
  minutes(
    one,
    yes ? null : Math.max(one.minutesDays ?? USUAL_MINUTES_DAYS, shown(one).readingsDays),
  )

async function keep(change: Change, undoes = false) {
  failure.value = ''
  try {
    await api.changeKeeping(change.of.keep, change.to)
    made.value = undoes ? undefined : { ...change, at: Date.now() }
    wanted.value = undefined
    emit('changed')
  } catch (e) {
    failure.value = inWords(e)
  }
}
const undo = (change: Change) =>
  keep(
    {
      of: change.of,
      to: { readingsDays: change.of.readingsDays, minutesDays: change.of.minutesDays },
    },
    true,
  )
const goes = computed(() => (going.value ? goingInWords(going.value) : 'Looking at what goes …'))
</script>

<template>
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
      <tr v-for="one in classes" :key="one.keep">
        <th scope="row">{{ one.name }}</th>
        <td>
          <ElInputNumber
            :model-value="shown(one).readingsDays"
            :min="1"
            :max="36500"
            :controls="false"
            :disabled="!may('administer')"
            size="small"
            :aria-label="`${one.name}: days as it was read`"
            @change="(days) => readings(one, days ?? undefined)"
          />
        </td>
        <td>
          <div class="days">
            <ElInputNumber
              v-if="shown(one).minutesDays !== null"
              :model-value="shown(one).minutesDays ?? undefined"
              :min="shown(one).readingsDays"
              :max="36500"
              :controls="false"
              :disabled="!may('administer')"
              size="small"
              :aria-label="`${one.name}: days in steps of a minute`"
              @change="(days) => minutes(one, days ?? undefined)"
            />
            <ElCheckbox
              :model-value="shown(one).minutesDays === null"
              :disabled="!may('administer')"
              size="small"
              @change="(yes) => ever(one, Boolean(yes))"
              >for ever</ElCheckbox
            >
          </div>
        </td>
        <td class="soft">{{ one.oldest === null ? 'none yet' : day(one.oldest) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="failure || unknown" class="warning" role="alert">◣ {{ failure || unknown }}</p>
  <section v-if="wanted" class="ask" aria-label="A change of how long is kept">
    <p>
      Then {{ keptInWords(wanted.of.name, wanted.to) }}
      <b v-if="going?.length">{{ goes }}</b><template v-else>{{ goes }}</template>
    </p>
    <ElButton type="primary" size="small" :disabled="!going" @click="keep(wanted)"
      >Keep it so</ElButton
    >
    <ElButton size="small" @click="wanted = undefined">leave it as it was</ElButton>
  </section>
  <p v-if="made" role="status">
    {{ keptInWords(made.of.name, made.to) }} What is older goes from
    {{ clock(made.at + UNTIL_IT_GOES) }} on.
    <ElButton size="small" @click="undo(made)">undo</ElButton>
  </p>
  <p class="soft note">
    Wider steps are kept for ever. A month goes as a whole, once all of it is that old.
  </p>
</template>

<style scoped>
.days {
  display: flex;
  align-items: center;
  gap: 12px;
}
.rows :deep(.el-input-number) {
  width: 72px;
}
.ask {
  margin: 8px 0;
  padding: 8px 12px;
  border-left: 3px solid var(--ink);
}
.ask p {
  padding-bottom: 8px;
}
.note {
  padding-top: 4px;
}
</style>
