<script setup lang="ts">
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import type { TellingRule } from '@/api/types'
import RuleEditor from './RuleEditor.vue'
import RuleTrial from './RuleTrial.vue'
import { usePlan } from './usePlan'
import { fitsInWords, stepsInWords } from './words'

/** Who is told of what: of several rules that fit the first one holds. */
const { draft } = usePlan()
const open = ref<number>()

const change = (rules: TellingRule[]) => {
  if (draft.value) draft.value = { ...draft.value, rules }
}
const put = (at: number, rule: TellingRule) =>
  change((draft.value?.rules ?? []).map((one, i) => (i === at ? rule : one)))
function move(at: number, by: number) {
  const rules = [...(draft.value?.rules ?? [])]
  const [rule] = rules.splice(at, 1)
  if (rule) rules.splice(at + by, 0, rule)
  open.value = undefined
  change(rules)
}
function add() {
  const rules = [...(draft.value?.rules ?? [])]
  rules.unshift({
    name: `Rule ${rules.length + 1}`,
    sites: [],
    groups: [],
    instances: [],
    tags: [],
    counters: [],
    conditions: [],
    severities: ['critical'],
    hours: { days: [], from: 0, to: 0, holidays: 'as_any' },
    steps: [],
  })
  open.value = 0
  change(rules)
}
function remove(at: number) {
  open.value = undefined
  change((draft.value?.rules ?? []).filter((_, i) => i !== at))
}
</script>

<template>
  <template v-if="draft">
    <p class="soft">
      Of several rules that fit the first one holds. Nobody is told of what is in maintenance, known
      to somebody, or judged afterwards.
    </p>
    <ol class="rules" aria-label="Rules">
      <li v-for="(rule, i) in draft.rules" :key="i">
        <div class="line">
          <button
            type="button"
            class="link name"
            :aria-expanded="open === i"
            @click="open = open === i ? undefined : i"
          >
            {{ rule.name }}
          </button>
          <span class="acts">
            <button
              v-if="i > 0 && i < draft.rules.length - 1"
              type="button"
              class="link"
              :aria-label="`Move ${rule.name} up`"
              @click="move(i, -1)"
            >
              up
            </button>
            <button
              v-if="i < draft.rules.length - 2"
              type="button"
              class="link"
              :aria-label="`Move ${rule.name} down`"
              @click="move(i, 1)"
            >
              down
            </button>
            <button
              v-if="i < draft.rules.length - 1"
              type="button"
              class="link"
              :aria-label="`Remove ${rule.name}`"
              @click="remove(i)"
            >
              remove
            </button>
          </span>
        </div>
        <RuleEditor
          v-if="open === i"
          :model-value="rule"
          :last="i === draft.rules.length - 1"
          @update:model-value="(changed) => put(i, changed)"
        />
        <p v-else>
          <span class="soft">for</span> {{ fitsInWords(rule) }} <span class="soft">tells</span>
          {{ stepsInWords(rule) }}
        </p>
      </li>
    </ol>
    <ElButton @click="add">Add a rule</ElButton>
    <RuleTrial />
  </template>
  <p v-else class="soft">Fetching the rules …</p>
</template>

<style scoped>
.rules {
  padding-left: 24px;
}
li {
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  justify-content: space-between;
  gap: 16px;
}
.name {
  font-weight: 600;
  text-align: left;
}
.acts {
  display: flex;
  gap: 12px;
}
</style>
