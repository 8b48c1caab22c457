<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { numberOf, ORIGIN, watchesFor } from '@/limits/limits'
import CopyText from '@/text/CopyText.vue'
import { clockWithSeconds, day, many, momentInWords, plain, range, seconds } from '@/text/format'
import { useClock } from '@/window/useClock'
import { formula, madeOf, raw, slotOf } from './work'

/** How one value came about: what was asked and answered, the formula, its normal, its limits and what it costs. */
const props = defineProps<{ series: number; at?: number }>()
const emit = defineEmits<{ close: [] }>()
const NOON = 43_200_000
const now = useClock()

const { answer: work, failure } = useAnswer(
  () => `${props.series} ${props.at}`,
  (_, signal) => api.work(props.series, props.at, signal),
)
const unit = computed(() => work.value?.unit ?? '')
const { answer: week } = useAnswer(
  () => `${props.series} ${work.value?.slot}`,
  async (_, signal) =>
    work.value && work.value.normal !== null
      ? api.baselineWeek(props.series, work.value.slot, signal)
      : undefined,
)
const slot = computed(() => work.value && week.value && slotOf(week.value, work.value.slot))
const limits = computed(() =>
  (work.value?.limits ?? []).map((limit) => {
    const told = (value: number) => numberOf(limit.condition, value, unit.value)
    const numbers = [
      limit.warning === null ? '' : `◣ ${told(limit.warning)} (${ORIGIN[limit.warningFrom]})`,
      limit.critical === null ? '' : `◆ ${told(limit.critical)} (${ORIGIN[limit.criticalFrom]})`,
    ]
    return `${watchesFor(limit, unit.value)} ${numbers.filter(Boolean).join(', ')}`
  }),
)
const title = computed(() =>
  work.value ? `${work.value.title} · ${work.value.instance}` : 'How it is made',
)
</script>

<template>
  <ElDialog
    :model-value="true"
    append-to="#answers"
    :title="title"
    width="720px"
    @close="emit('close')"
  >
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-else-if="!work" class="soft" role="status">Asking …</p>
    <dl v-else>
      <dt>Value</dt>
      <dd v-if="!work.at" class="soft">
        {{
          at === undefined
            ? 'No reading of it is known since its watch began: it is paused, gone, or just begun.'
            : 'No reading covers that moment: nothing was read just then, or it is so long ago that only its steps are kept.'
        }}
      </dd>
      <dd v-else>
        <strong v-if="work.value !== null" class="formula">{{ formula(work, unit) }}</strong>
        <span v-else class="silent">◌ {{ work.why }}</span>
        <p class="soft">{{ madeOf(work) }}{{ work.least ? `, from ${raw(work.least)} on` : '' }}</p>
      </dd>
      <template v-if="work.at">
        <dt>Read</dt>
        <dd>
          {{ momentInWords(work.at, now)
          }}<template v-if="work.before"
            >, and before at {{ clockWithSeconds(work.before) }}</template
          ><template v-if="work.elapsed"
            >: {{ raw(work.elapsed / 1000) }} s
            <span v-if="work.clock" class="soft">by {{ work.clock }}</span></template
          >
          <p v-if="!work.latest" class="soft">
            Raw values are known of the latest reading; of the past what it grew by is kept, exact.
          </p>
        </dd>
      </template>
      <template v-for="part in work.parts" :key="part.name">
        <dt>{{ part.name }}</dt>
        <dd>
          <template v-if="part.raw !== null">
            told {{ raw(part.raw)
            }}<template v-if="part.rawBefore !== null">, before {{ raw(part.rawBefore) }}</template
            ><template v-if="part.resolution && part.raw !== part.kept"
              >; kept to {{ raw(part.resolution) }}</template
            ><template v-if="part.byEntries && part.kept !== null"
              >; it grew by {{ raw(part.kept) }}, added up entry by entry</template
            >
          </template>
          <template v-else-if="part.kept !== null"
            >{{ work.shape === 'level' ? 'kept' : 'grew by' }} {{ raw(part.kept) }}</template
          >
          <span v-else class="silent">◌ {{ part.why }}</span>
          <details v-if="part.sumOf.length">
            <summary>the sum of {{ part.sumOf.length }}</summary>
            <ul>
              <li v-for="one in part.sumOf" :key="one.name">
                {{ one.name }}: {{ one.kept === null ? `◌ ${one.why}` : raw(one.kept) }}
              </li>
            </ul>
          </details>
          <template v-if="part.byHand">
            <p class="soft">By hand ({{ part.how }}):</p>
            <CopyText :text="part.byHand" what="line" />
          </template>
        </dd>
      </template>
      <dt>Normal</dt>
      <dd v-if="work.normalLow === null || work.normalHigh === null" class="soft">
        still learning
      </dd>
      <dd v-else>
        {{ range(work.normalLow, work.normalHigh, unit) }}, middle
        {{ plain(work.normal ?? 0, unit) }}
        <p v-if="slot" class="soft">
          {{ slot.words }}, {{ week?.zone }}: from {{ work.normalFrom }},
          {{ many(work.normalSteps, 'minute') }} of the weeks since {{ day(slot.since + NOON)
          }}<template v-for="out in slot.out" :key="out.monday"
            >; {{ day(out.monday + NOON) }} left out: {{ out.why }}</template
          >
        </p>
      </dd>
      <dt>Limits</dt>
      <dd v-if="!limits.length" class="soft">none set</dd>
      <dd v-for="limit in limits" :key="limit">{{ limit }}</dd>
      <dt>Costs</dt>
      <dd>
        read every {{ work.interval }} s<template v-if="work.together"
          >, with {{ work.together - 1 }} others<template v-if="work.cost !== null">
            in {{ seconds(work.cost) }}</template
          ></template
        >
      </dd>
    </dl>
  </ElDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: minmax(90px, 150px) minmax(0, 1fr);
  gap: 10px 16px;
}
dt {
  color: var(--ink-soft);
}
dd {
  grid-column: 2;
  margin: 0;
}
.formula {
  font-variant-numeric: tabular-nums;
}
dd :deep(pre) {
  white-space: pre-wrap;
}
summary {
  color: var(--plum);
  cursor: pointer;
}
ul {
  max-height: 180px;
  overflow: auto;
  padding-left: 16px;
}
</style>
