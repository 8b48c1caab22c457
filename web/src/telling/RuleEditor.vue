<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed } from 'vue'
import type { TellingRule, TellingStep } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import HoursField from './HoursField.vue'
import ManyField from './ManyField.vue'
import { usePlan } from './usePlan'
import { CONDITIONS, SEVERITIES, toInWords, URGENCIES } from './words'

/** One rule, open. */
const rule = defineModel<TellingRule>({ required: true })
const { last } = defineProps<{ last: boolean }>()
const { draft, names } = usePlan()
const { instances } = useInstances()

const set = (change: Partial<TellingRule>) => (rule.value = { ...rule.value, ...change })
const distinct = (all: string[]): [string, string][] =>
  [...new Set(all.filter(Boolean))].sort().map((one) => [one, one])
type Fit = 'severities' | 'conditions' | 'counters' | 'sites' | 'groups' | 'instances' | 'tags'
/** What a rule fits by. */
const fields = computed<{ key: Fit; of: string; choices: [string, string][] }[]>(() => {
  const all = instances.value
  const groups = all.map((one) => one.group)
  const sites = all.map((one) => one.site)
  return [
    { key: 'severities', of: 'Severity', choices: SEVERITIES },
    { key: 'conditions', of: 'Condition', choices: CONDITIONS },
    { key: 'counters', of: 'Counter, by its key', choices: [] },
    { key: 'sites', of: 'Site', choices: distinct(sites) },
    { key: 'groups', of: 'Group', choices: distinct(groups) },
    {
      key: 'instances',
      // what is said of the heads of many has their name
      of: 'Instance, or a group or site as a whole',
      choices: distinct([...all.map((one) => one.name), ...groups, ...sites]),
    },
    { key: 'tags', of: 'Tag', choices: distinct(all.flatMap((one) => one.tags)) },
  ]
})
const tos = computed(() => [
  ...(draft.value?.duties ?? []).map((one) => `duty:${one.name}`),
  ...(draft.value?.people ?? []).map((one) => `person:${one.name}`),
  ...names.value.map((name) => `channel:${name}`),
])
const setStep = (at: number, change: Partial<TellingStep>) =>
  set({ steps: rule.value.steps.map((one, i) => (i === at ? { ...one, ...change } : one)) })
const add = () =>
  set({
    steps: [
      ...rule.value.steps,
      { to: tos.value[0] ?? '', afterMinutes: rule.value.steps.length * 15, urgency: 'wake' },
    ],
  })
const value = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <div class="editor">
    <label class="name"
      >Name<ElInput :model-value="rule.name" @update:model-value="(name) => set({ name })"
    /></label>
    <p v-if="last" class="soft">
      The last rule is for all else, at any time: or something would be told to nobody.
    </p>
    <template v-else>
      <div class="fits">
        <ManyField
          v-for="field in fields"
          :key="field.of"
          :model-value="rule[field.key]"
          :of="field.of"
          :choices="field.choices"
          @update:model-value="(some) => set({ [field.key]: some })"
        />
      </div>
      <HoursField
        :model-value="rule.hours"
        of="When it rises"
        @update:model-value="(hours) => set({ hours })"
      />
    </template>
    <p v-for="(step, i) in rule.steps" :key="i" class="step">
      <label
        >{{ i ? 'then' : 'told is' }}
        <select :value="step.to" @change="setStep(i, { to: value($event) })">
          <option v-for="to in tos" :key="to" :value="to">{{ toInWords(to) }}</option>
        </select></label
      >
      <select
        :value="step.urgency"
        aria-label="How urgently"
        @change="setStep(i, { urgency: value($event) })"
      >
        <option v-for="[urgency, words] in URGENCIES" :key="urgency" :value="urgency">
          {{ words }}
        </option>
      </select>
      <label
        >where it is open and nobody knows of it after
        <input
          type="number"
          min="0"
          max="10080"
          :value="step.afterMinutes"
          aria-label="After how many minutes"
          @change="setStep(i, { afterMinutes: Number(value($event)) || 0 })"
        />
        min</label
      >
      <button
        type="button"
        class="link"
        @click="set({ steps: rule.steps.filter((_, at) => at !== i) })"
      >
        remove
      </button>
    </p>
    <p v-if="!rule.steps.length" class="soft">Nobody is told: it stands in the list.</p>
    <ElButton :disabled="!tos.length" @click="add">{{
      rule.steps.length ? 'Then tell …' : 'Tell …'
    }}</ElButton>
  </div>
</template>

<style scoped>
.editor {
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 8px;
  padding: 8px 0;
}
.name {
  width: 100%;
  max-width: 520px;
  color: var(--ink-soft);
  font-size: 12px;
}
.fits {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  width: 100%;
}
.step {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
}
.step input {
  width: 72px;
}
</style>
