<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import PartCard from '@/sessions/PartCard.vue'
import { asPoints } from '@/sessions/points'
import CopyText from '@/text/CopyText.vue'
import { momentInWords, number, seconds } from '@/text/format'
import ChartGrid from '@/series/ChartGrid.vue'
import { useSeries } from '@/series/useSeries'
import { useClock } from '@/window/useClock'
import { useOverWindow } from '@/window/useOverWindow'
import { formatted } from './formatted'

/**
 * One statement: its text, its calls and mean over the window, and who calls it. One that is followed has charts like
 * any counter, with its normal and limits.
 */
const props = defineProps<{ instance: number; fingerprint: string }>()
const STEPS = 240
const now = useClock()
const { answer, failure } = useOverWindow(
  () => ({ id: props.instance, print: props.fingerprint }),
  ({ id, print }, from, to, signal) => api.statement(id, print, from, to, STEPS, signal),
  20_000,
)
const { of } = useSeries(computed(() => [props.instance]))
const FOLLOWED = ['statement.mean_time', 'statement.calls', 'statement.blocks_read']
const followed = computed(() =>
  FOLLOWED.flatMap((counter) =>
    of(props.instance)
      .filter((s) => s.counter === counter && s.labels.statement === props.fingerprint)
      .map((series) => ({ series, instance: props.instance })),
  ),
)
const charts = computed(() => {
  const told = answer.value?.told
  if (!told) return []
  const chart = (title: string, unit: string, values: (number | null)[]) => ({
    title,
    unit,
    points: asPoints({ ...told, all: told.callsPerSecond }, values, 'not counted'),
  })
  return [chart('Mean', 's', told.mean), chart('Calls', '/s', told.callsPerSecond)]
})
const text = ref('')
watch(
  () => answer.value?.told.text,
  async (told) => {
    text.value = told ?? ''
    if (!told) return
    const lines = await formatted(told)
    if (answer.value?.told.text === told) text.value = lines
  },
)
</script>

<template>
  <section class="one" aria-label="The statement">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="!answer" class="soft">Fetching the statement …</p>
    <template v-else>
      <ChartGrid v-if="followed.length" :cells="followed" />
      <div v-else class="charts">
        <PartCard
          v-for="chart in charts"
          :key="chart.title"
          :title="chart.title"
          :unit="chart.unit"
          about="no normal: not followed"
          :points="chart.points"
          :beside="[]"
          :from="answer.from"
          :to="answer.to"
        />
      </div>
      <p v-if="!followed.length" class="soft">
        Not followed: the 50 that took the most time on three of the last seven days have a normal
        and limits of their own, and those that a limit is set on.
      </p>
      <div class="beside">
        <div class="text">
          <p class="head">
            <strong>Text</strong>
            <span class="soft">
              without its values · first seen {{ momentInWords(answer.told.firstSeen, now) }} ·
              fingerprint {{ answer.told.fingerprint }} · plans are not read
            </span>
          </p>
          <CopyText :text="text" what="statement" />
        </div>
        <table class="rows callers">
          <caption>
            Who calls it
          </caption>
          <thead>
            <tr>
              <th>User</th>
              <th>Database</th>
              <th class="n">Calls</th>
              <th class="n">Mean</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="caller in answer.told.callers"
              :key="`${caller.user} ${caller.database} ${caller.top}`"
            >
              <th scope="row">
                {{ caller.user
                }}<span v-if="!caller.top" class="soft"> inside of other statements</span>
              </th>
              <td>{{ caller.database }}</td>
              <td class="n">{{ number(caller.calls, '') }}</td>
              <td class="n">{{ caller.mean === null ? '' : seconds(caller.mean) }}</td>
            </tr>
            <tr v-if="!answer.told.callers.length">
              <td colspan="4" class="soft">Nobody in this window.</td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
  </section>
</template>

<style scoped>
.one {
  padding: 4px 0 8px;
}
.charts {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px;
}
.beside {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 16px;
  align-items: start;
  padding-top: 10px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
}
.text :deep(pre) {
  max-height: 240px;
  overflow: auto;
  font-size: 12.5px;
  white-space: pre-wrap;
}
@media (width < 900px) {
  .charts,
  .beside {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
