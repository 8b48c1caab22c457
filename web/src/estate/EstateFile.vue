<script setup lang="ts">
import { useMe } from '@/access/useMe'
import '@/look/choices'
import { ElButton, ElInput, ElRadio, ElRadioGroup } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api, inWords } from '@/api/client'
import type { EstateLine, EstateProgress, EstateResult } from '@/api/types'
import { useGroups } from '@/groups/useGroups'
import { useUnsaved } from '@/unsaved/useUnsaved'
import { useInstances } from '@/instances/useInstances'

const { mayOfAll } = useMe()

/** Many instances from one file: first told line by line what it would do, then taken in. */
const EXAMPLE = `groups:
- {name: booking, site: Northquay, expected: 2}
defaults: {kind: appserver, recipe: tomcat, site: Northquay, tls: 'off', interval: 10}
instances:
- {name: booking-1, group: booking, host: booking-1.example.invalid, port: 9010}
- name: booking-db-a
  kind: postgresql
  recipe: postgresql
  host: booking-db-a.example.invalid
  port: 5432
  credential: readers
`
const { reload } = useInstances()
const { reload: reloadGroups } = useGroups()
const text = ref('')
const { isKept } = useUnsaved(
  () => text.value,
  'the estate’s file',
  (to) => to.path !== '/estate' || to.query.part !== 'file',
)
const format = ref<'yaml' | 'csv'>('yaml')
const result = ref<EstateResult>()
const taken = ref(false)
const failure = ref('')
const busy = ref('')
const run = ref('')
const progress = ref<EstateProgress>()

const WORDS: Record<string, string> = {
  add: 'will be added',
  change: 'will be changed',
  same: 'is there already, as it is',
  fault: 'can’t be taken',
  silent: 'does not pass its checks',
  untried: 'was not tried: it was stopped',
}
const COUNTED: Record<string, string> = {
  add: 'to add',
  change: 'to change',
  same: 'as they are already',
  fault: 'with faults',
  silent: 'failing their checks',
  untried: 'not tried',
}
const DONE: Record<string, string> = { ...WORDS, add: 'added', change: 'changed' }
const SIGN: Record<string, string> = { fault: '◆', silent: '◣' }

const counts = computed(() => {
  const all: Record<string, number> = {}
  for (const line of result.value?.lines ?? []) all[line.action] = (all[line.action] ?? 0) + 1
  return all
})
const todo = computed(() => (counts.value.add ?? 0) + (counts.value.change ?? 0))
const order = (line: EstateLine) =>
  ['fault', 'silent', 'untried', 'change', 'add', 'same'].indexOf(line.action)
const lines = computed(() =>
  [...(result.value?.lines ?? [])].sort((a, b) => order(a) - order(b) || a.line - b.line),
)

/** What was told is of the text as it was. */
watch([text, format], () => {
  result.value = undefined
  taken.value = false
})

async function read(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  format.value = file.name.endsWith('.csv') ? 'csv' : 'yaml'
  text.value = await file.text()
}

async function attempt(dry: boolean, insist = false) {
  busy.value = dry ? 'dry' : 'take'
  failure.value = ''
  run.value = crypto.randomUUID()
  const following = setInterval(follow, 500)
  try {
    const body = { text: text.value, format: format.value }
    result.value = await api.takeEstate(body, dry, insist, run.value)
    taken.value = !dry && !counts.value.untried
    if (taken.value) isKept()
    if (taken.value) await Promise.all([reload(), reloadGroups()])
  } catch (e) {
    failure.value = inWords(e)
  }
  clearInterval(following)
  progress.value = undefined
  busy.value = ''
}
/** It may have ended since: then there is nothing to follow or to stop. */
async function follow() {
  progress.value = await api.estateProgress(run.value).catch(() => undefined)
}
const stop = () => api.stopEstate(run.value).catch(() => undefined)
</script>

<template>
  <div class="file">
    <p>
      Export all:
      <a class="link" href="/api/estate/estate.yaml" download>as YAML</a> ·
      <a class="link" href="/api/estate/estate.csv" download>as CSV</a>
      <span class="soft"> — without passwords; it can be imported again as it is.</span>
    </p>
    <p v-if="!mayOfAll('shape')" class="soft">
      A file is taken in by who may <em>shape</em> the whole estate.
    </p>
    <template v-else>
      <div class="in">
        <label class="pick">
          Import a file, or paste it
          <input
            type="file"
            accept=".yaml,.yml,.csv"
            aria-label="File of instances"
            @change="read"
          />
        </label>
        <ElRadioGroup v-model="format" aria-label="Format">
          <ElRadio value="yaml">YAML</ElRadio>
          <ElRadio value="csv">CSV</ElRadio>
        </ElRadioGroup>
        <button
          v-if="!text"
          class="link"
          type="button"
          @click="((format = 'yaml'), (text = EXAMPLE))"
        >
          put an example there
        </button>
      </div>
      <ElInput
        v-model="text"
        type="textarea"
        :rows="result ? 6 : 14"
        spellcheck="false"
        aria-label="Instances"
        :placeholder="
          format === 'csv' ? 'name,kind,group,site,host,port,tls,credential,recipe' : EXAMPLE
        "
      />
      <div class="buttons">
        <ElButton
          type="primary"
          :disabled="!text.trim()"
          :loading="busy === 'dry'"
          @click="attempt(true)"
          >Try it without changing anything</ElButton
        >
        <ElButton
          v-if="result && !taken"
          :disabled="!todo"
          :loading="busy === 'take'"
          @click="attempt(false)"
          >{{
            todo
              ? todo === 1
                ? 'Take in the good one'
                : `Take in the ${todo} good ones`
              : 'Nothing to take in'
          }}</ElButton
        >
        <ElButton
          v-if="result && !taken && counts.silent"
          :loading="busy === 'take'"
          @click="attempt(false, true)"
          >And those that fail their checks</ElButton
        >
      </div>
    </template>
    <p v-if="progress" role="status">
      {{ progress.done }} of {{ progress.total }} tried; silent ones take some seconds.
      <button class="link" type="button" @click="stop">stop, and take none</button>
    </p>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <ul v-if="result?.faults.length" class="faults" aria-label="Faults of the file">
      <li v-for="fault in result.faults" :key="`${fault.line} ${fault.field}`" class="critical">
        ◆ {{ fault.line ? `line ${fault.line}` : 'the file'
        }}{{ fault.field ? `, ${fault.field}` : '' }}: {{ fault.sentence }}
      </li>
    </ul>
    <template v-if="result?.lines.length">
      <p role="status">
        <strong>{{ taken ? 'Done' : 'It would do this' }}:</strong>
        {{
          Object.entries(counts)
            .map(
              ([action, count]) =>
                `${count} ${taken && (action === 'add' || action === 'change') ? DONE[action] : COUNTED[action]}`,
            )
            .join(' · ')
        }}
      </p>
      <table class="rows">
        <thead>
          <tr>
            <th>Line</th>
            <th>Instance</th>
            <th>What it does</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in lines" :key="line.line">
            <td>{{ line.line }}</td>
            <th scope="row">{{ line.name || 'without a name' }}</th>
            <td>
              <span
                :class="{ critical: line.action === 'fault', warning: line.action === 'silent' }"
                >{{ SIGN[line.action] ?? '' }} {{ (taken ? DONE : WORDS)[line.action]
                }}{{ line.changes.length ? `: ${line.changes.join(', ')}` : '' }}</span
              >
              <p v-for="fault in line.faults" :key="fault.field + fault.sentence">
                line {{ fault.line }}, <strong>{{ fault.field }}</strong> {{ fault.sentence }}
              </p>
              <p v-for="check in line.failing" :key="check.check">
                <strong>{{ check.check }}</strong> {{ check.found }}
                <span class="soft">{{ check.advice }}</span>
              </p>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.file {
  display: grid;
  gap: 12px;
}
.in {
  display: flex;
  align-items: center;
  gap: 20px;
}
.pick input {
  margin-left: 8px;
}
.file :deep(textarea) {
  font: 12.5px/1.5 var(--code);
}
.faults {
  list-style: none;
}
</style>
