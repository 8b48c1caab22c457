<script setup lang="ts">
import {
  ElButton,
  ElDrawer,
  ElInput,
  ElOption,
  ElRadio,
  ElRadioGroup,
  ElSelect,
} from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { api, fieldOf, inWords } from '@/api/client'
import type { BeanNumber, CounterOfBean, Instance, RecipeChange } from '@/api/types'
import { number as shown } from '@/text/format'
import { looksLikeTotal, partsOf } from './names'
import { useUnsaved } from '@/unsaved/useUnsaved'
import { useLink } from '@/window/useLink'

/** A number of a managed bean becomes a counter: its name, its shape, its unit and what it means. */
const props = defineProps<{
  instance: Instance
  bean: string
  number: BeanNumber & { type: string; description: string }
}>()
const emit = defineEmits<{ close: []; made: [] }>()
const { link } = useLink()

/** As it is told there, and what it is multiplied with to be shown. */
const UNITS = [
  { key: 'count', label: 'a count', unit: '', factor: 1 },
  { key: 'B', label: 'bytes', unit: 'B', factor: 1 },
  { key: 'KiB', label: 'KiB, shown as bytes', unit: 'B', factor: 1024 },
  { key: 's', label: 'seconds', unit: 's', factor: 1 },
  { key: 'ms', label: 'milliseconds', unit: 's', factor: 0.001 },
  { key: 'µs', label: 'microseconds', unit: 's', factor: 0.000001 },
  { key: 'ns', label: 'nanoseconds', unit: 's', factor: 0.000000001 },
  { key: '%', label: 'per cent', unit: '%', factor: 1 },
  { key: 'share', label: 'a share of 1, shown in %', unit: '%', factor: 100 },
]
const path = props.number.path
const unit = ref(/millis/i.test(path) ? 'ms' : /bytes|memory|usage/i.test(path) ? 'B' : 'count')
const words = path
  .replace(/\./g, ' ')
  .replace(/([a-z])([A-Z])/g, '$1 $2')
  .toLowerCase()
const body = reactive<CounterOfBean>({
  bean: props.bean,
  label: '',
  path,
  flag: props.number.flag,
  title: words.charAt(0).toUpperCase() + words.slice(1),
  unit: '',
  shape: looksLikeTotal(path, props.number.type) ? 'total' : 'level',
  factor: 1,
  worse: 'up',
  // many describe an attribute by its name
  meaning: path.startsWith(props.number.description) ? '' : props.number.description,
})
watch(
  unit,
  (key) => {
    const found = UNITS.find((u) => u.key === key)
    body.unit = found?.unit ?? ''
    body.factor = found?.factor ?? 1
  },
  { immediate: true },
)
const { closing, isKept } = useUnsaved(() => [body.title, body.meaning, body.label], 'the counter')
const labels = computed(() => partsOf(props.bean).properties.filter(([key]) => key !== 'type'))
const now = computed(() =>
  props.number.value === null || body.shape === 'total'
    ? ''
    : `now ${shown(props.number.value * body.factor, body.unit)}`,
)

const change = ref<RecipeChange>()
const failure = ref('')
const fault = ref('')
const busy = ref(false)
watch(body, () => {
  change.value = undefined
  failure.value = ''
  fault.value = ''
})

async function run(dry: boolean) {
  busy.value = true
  failure.value = ''
  try {
    change.value = await api.counterOfBean(props.instance.id, body, dry)
    if (change.value.saved) {
      isKept()
      emit('made')
    }
  } catch (e) {
    failure.value = inWords(e)
    fault.value = fieldOf(e)
  }
  busy.value = false
}
</script>

<template>
  <ElDrawer
    append-to="#answers"
    :model-value="true"
    :title="`A counter of ${path}`"
    size="440px"
    :close-on-click-modal="false"
    :before-close="closing"
    @close="emit('close')"
  >
    <div v-if="change?.saved" role="status">
      <p>
        <strong>{{ body.title }}</strong> is read from now on, of
        {{ change.usedBy.length === 1 ? change.usedBy[0] : `${change.usedBy.length} instances` }}.
      </p>
      <p class="after">
        <RouterLink
          class="link"
          :to="link('/counters', { pick: instance.id, counts: change.added[0]?.group })"
          >see it among the counters</RouterLink
        >
        <button class="link" type="button" @click="emit('close')">back to the bean</button>
      </p>
    </div>
    <form v-else @submit.prevent="run(false)">
      <label :class="{ fault: fault === 'title' }">Title<ElInput v-model="body.title" /></label>
      <label :class="{ fault: fault === 'meaning' }"
        >What it means<ElInput
          v-model="body.meaning"
          type="textarea"
          :rows="2"
          placeholder="one sentence, for whoever sees it at 02:10"
      /></label>
      <fieldset>
        <legend id="shape-label">Shape</legend>
        <ElRadioGroup v-model="body.shape" aria-labelledby="shape-label">
          <ElRadio value="level">a level, which goes up and down</ElRadio>
          <ElRadio value="total">a total, which only grows: shown per second</ElRadio>
        </ElRadioGroup>
      </fieldset>
      <label v-if="!number.flag"
        >It is told in<ElSelect v-model="unit" aria-label="Unit">
          <ElOption v-for="u in UNITS" :key="u.key" :value="u.key" :label="u.label" /> </ElSelect
      ></label>
      <p v-if="now" class="soft">{{ now }}</p>
      <fieldset>
        <legend id="worse-label">It gets worse as it goes</legend>
        <ElRadioGroup v-model="body.worse" aria-labelledby="worse-label">
          <ElRadio value="up">up</ElRadio>
          <ElRadio value="down">down</ElRadio>
          <ElRadio value="both">either way</ElRadio>
        </ElRadioGroup>
      </fieldset>
      <label v-if="labels.length"
        >Read of<ElSelect
          v-model="body.label"
          aria-label="Read of"
          :empty-values="[null, undefined]"
        >
          <ElOption value="" label="this bean alone" />
          <ElOption
            v-for="[key] in labels"
            :key="key"
            :value="key"
            :label="`all like it, one for each ${key}`"
          /> </ElSelect
      ></label>
      <p class="soft">
        It goes into the recipe <em>{{ instance.recipe }}</em>: every instance that is read by it
        has it from then on.
      </p>
      <template v-if="change">
        <p v-for="one in change.faults" :key="one" class="critical">◆ {{ one }}</p>
        <p v-if="!change.faults.length" role="status">
          Read from then on: {{ change.added.map((c) => c.key).join(', ') }}, of
          {{ change.usedBy.join(', ') }}, without a restart.
        </p>
      </template>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <div class="buttons">
        <ElButton type="primary" native-type="submit" :loading="busy">Make it a counter</ElButton>
        <ElButton :loading="busy" @click="run(true)">What would it do?</ElButton>
        <ElButton @click="closing(() => emit('close'))">Cancel</ElButton>
      </div>
    </form>
  </ElDrawer>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
}
label,
legend {
  color: var(--ink-soft);
  font-size: 12px;
}
fieldset {
  padding: 0;
  border: 0;
}
fieldset :deep(.el-radio) {
  height: 26px;
}
.fault {
  color: var(--raspberry);
}
.after {
  display: flex;
  gap: 16px;
  padding-top: 12px;
}
.buttons {
  display: flex;
}
</style>
