<script setup lang="ts">
import LastChanges from '@/access/LastChanges.vue'
import { vMay } from '@/access/vMay'
import '@/look/choices'
import { ElButton, ElInputNumber, ElOption, ElSelect } from 'element-plus'
import { computed, ref, toRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Instance, LimitBody, Series } from '@/api/types'
import type { Line } from '@/chart/LimitLines.vue'
import { KINDS } from '@/instances/kinds'
import {
  CONDITIONS,
  COUNTS,
  isOnAxis,
  minuteOfTime,
  numberOf,
  ORIGIN,
  timeOfMinute,
} from './limits'
import { useLimitDraft } from './useLimitDraft'
import { useUnsaved } from '@/unsaved/useUnsaved'
import { usePicked } from '@/window/usePicked'

/** Sets the limit of the chart beside it: type the numbers or drag the lines; saving is an act of its own, with undo. */
const props = defineProps<{
  series: Series
  instance: Instance
  /** A number that was pointed at: the warning begins with it. */
  number?: number
}>()
const emit = defineEmits<{
  lines: [lines: Line[]]
  draft: [limit: LimitBody]
  saved: []
  close: []
}>()

const { draft, whole, inForce, mine, failure, fault, saving, undo, save, remove, undoIt } =
  useLimitDraft(toRef(props, 'series'), toRef(props, 'instance'), props.number)
const onAxis = computed(() => isOnAxis(draft))
const unit = computed(() => COUNTS[draft.condition] ?? (props.series.unit || 'count'))
/** What the series is of tells what can be watched for: only what is counted can happen. */
const conditions = computed(() => [
  'above',
  'below',
  'outside',
  ...(props.series.shape === 'total' ? ['overdue'] : []),
  'reaches',
])
const due = computed({
  get: () => (draft.against === null ? '' : timeOfMinute(draft.against)),
  set: (time: string) => (draft.against = minuteOfTime(time)),
})
const needsAgainst = computed(() => draft.condition === 'overdue' || draft.condition === 'reaches')
const every = computed(() => {
  if (inForce.value) return inForce.value.every
  return onAxis.value ? Math.max(10, props.series.interval) : 60
})
const reaches = computed(() => [
  { level: 'instance', words: `${props.instance.name} alone` },
  ...(props.instance.group ? [{ level: 'group', words: `the group ${props.instance.group}` }] : []),
  { level: 'kind', words: `all of its kind: ${KINDS[props.instance.kind] ?? props.instance.kind}` },
])
const lines = computed<Line[]>(() =>
  !onAxis.value
    ? []
    : (['warning', 'critical'] as const).flatMap((kind) => {
        const value = draft[kind]
        return value === null ? [] : [{ kind, value }]
      }),
)
watch(lines, (now) => emit('lines', now), { immediate: true })

watch(
  () => ({ ...draft }),
  () => emit('draft', whole()),
  { immediate: true },
)

function setLine(kind: Line['kind'], value: number) {
  draft[kind] = value
  typed.value = true
  draft.clear = null
}
defineExpose({ setLine })

/** What is chosen, not what a choice brings with it. */
const typed = ref(false)
const { picked } = usePicked()
const path = useRoute().path
const of = picked.value.join()
const { isKept } = useUnsaved(
  () => typed.value,
  'the limit',
  (to) => to.path !== path || !to.query.edit || `${to.query.pick}` !== of,
)
const done = ref('')
async function submit() {
  if (!(await save())) return
  typed.value = false
  isKept()
  done.value = 'Saved. It judges from now on.'
  emit('saved')
}
async function deleteIt() {
  if (!(await remove())) return
  done.value = 'Deleted. What is set for its group or kind holds again.'
  emit('saved')
}
async function back() {
  await undoIt()
  emit('saved')
}
</script>

<template>
  <form class="editor" aria-label="Limit" novalidate @submit.prevent="submit" @input="typed = true">
    <h2>Limit</h2>
    <label
      >Watches for<ElSelect v-model="draft.condition" aria-label="Watches for">
        <ElOption
          v-for="word in conditions"
          :key="word"
          :value="word"
          :label="CONDITIONS[word]"
        /> </ElSelect
    ></label>
    <label
      >Set for<ElSelect v-model="draft.level" aria-label="Set for">
        <ElOption
          v-for="r in reaches"
          :key="r.level"
          :value="r.level"
          :label="r.words"
        /> </ElSelect
    ></label>
    <label v-if="draft.condition === 'overdue'" :class="{ fault: fault === 'against' }"
      >Due each day by, where {{ instance.name }} is
      <input v-model="due" type="time" aria-label="Due each day by" required
    /></label>
    <label v-if="draft.condition === 'reaches'" :class="{ fault: fault === 'against' }"
      >What it will reach, {{ series.unit || 'count'
      }}<ElInputNumber
        v-model="draft.against"
        :value-on-clear="null"
        :controls="false"
        aria-label="What it will reach"
    /></label>
    <div class="pair">
      <label class="warning" :class="{ fault: fault === 'warning' }"
        >◣ Warning, {{ unit
        }}<ElInputNumber
          v-model="draft.warning"
          :value-on-clear="null"
          :controls="false"
          aria-label="Warning"
      /></label>
      <label class="critical" :class="{ fault: fault === 'critical' }"
        >◆ Critical, {{ unit
        }}<ElInputNumber
          v-model="draft.critical"
          :value-on-clear="null"
          :controls="false"
          aria-label="Critical"
      /></label>
    </div>
    <p v-if="onAxis" class="soft hint">Or drag the lines in the chart.</p>
    <p class="sentence" :class="{ fault: fault === 'hold' }">
      Rises when
      <ElInputNumber
        v-model="draft.m"
        :min="1"
        :max="60"
        :controls="false"
        aria-label="Checks that pass"
      />
      of the last
      <ElInputNumber
        v-model="draft.n"
        :min="1"
        :max="60"
        :controls="false"
        aria-label="Checks looked at"
      />
      checks are at or beyond it.
    </p>
    <p v-if="draft.condition === 'overdue'" class="soft hint">
      What came within the twelve hours before counts. What comes late is calm as soon as it comes.
    </p>
    <p v-else class="sentence" :class="{ fault: fault === 'clear.number' }">
      Calm again at
      <ElInputNumber
        v-model="draft.clear"
        class="wide"
        :value-on-clear="null"
        :controls="false"
        placeholder="by itself"
        aria-label="Calm again at"
      />
      for
      <ElInputNumber
        v-model="draft.seconds"
        :min="0"
        :max="86400"
        :value-on-clear="null"
        :controls="false"
        placeholder="60"
        aria-label="Calm for seconds"
      />
      s.
    </p>
    <p class="soft hint">
      <template v-if="draft.condition === 'reaches'"
        >Checked each night, by a forecast of its daily peaks</template
      ><template v-else>Checked every {{ every }} s</template
      ><template v-if="inForce"
        >; now in force:
        <template v-if="inForce.warning !== null"
          >◣ {{ numberOf(inForce.condition, inForce.warning, series.unit) }} from
          {{ ORIGIN[inForce.warningFrom] }}&nbsp;</template
        ><template v-if="inForce.critical !== null"
          >◆ {{ numberOf(inForce.condition, inForce.critical, series.unit) }} from
          {{ ORIGIN[inForce.criticalFrom] }}</template
        ></template
      ><template v-else>; no such limit yet</template>.
    </p>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <div class="buttons">
      <ElButton
        v-may="'shape'"
        type="primary"
        native-type="submit"
        :loading="saving"
        :disabled="
          (draft.warning === null && draft.critical === null) ||
          (needsAgainst && draft.against === null)
        "
        >Save the limit</ElButton
      >
      <ElButton @click="emit('close')">Close</ElButton>
    </div>
    <p v-if="undo" class="saved" role="status">
      {{ done }}
      <button class="link" type="button" @click="back">undo</button>
    </p>
    <LastChanges v-if="mine" what="limit" :of="mine.id" :follows="[undo, saving]" />
    <button v-if="mine" v-may="'shape'" class="link" type="button" @click="deleteIt">
      {{ mine.shipped ? 'back to what was shipped' : 'delete this limit' }}
    </button>
  </form>
</template>

<style scoped>
.editor {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
h2 {
  font-size: 14px;
}
.pair label {
  flex: 1;
}
label {
  color: var(--ink-soft);
  font-size: 12px;
}
label.warning {
  color: var(--apricot);
}
label.critical {
  color: var(--raspberry);
}
label :deep(.el-input-number) {
  width: 100%;
}
label :deep(input) {
  text-align: left;
}
.fault :deep(.el-input__wrapper) {
  box-shadow: 0 0 0 1px var(--raspberry) inset;
}
.sentence {
  line-height: 2.4;
}
.sentence :deep(.el-input-number) {
  width: 44px;
}
.sentence :deep(.el-input-number.wide) {
  width: 84px;
}
.sentence :deep(.el-input__wrapper) {
  padding: 0 8px;
}
.sentence :deep(input) {
  text-align: left;
}
.pair {
  display: flex;
  gap: 8px;
}
.hint {
  font-size: 12px;
}
.buttons {
  display: flex;
}
</style>
