<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, onMounted, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Alert } from '@/api/types'
import { momentInWords } from '@/text/format'
import { useUnsaved } from '@/unsaved/useUnsaved'

/** Somebody knows of an alert: a note, and until when it steps back. */
const props = defineProps<{ alert: Alert; now: number }>()
const emit = defineEmits<{ done: []; cancel: [] }>()

const HOUR = 3_600_000
const CHOICES = [
  { hours: 1, words: 'for an hour' },
  { hours: 4, words: 'for 4 hours' },
  { hours: 12, words: 'for 12 hours' },
  { hours: 24, words: 'for a day' },
  { hours: 168, words: 'for a week' },
  { hours: 0, words: 'until a date' },
]

const note = ref('')
const hours = ref(12)
const date = ref('')
const evenIfWorse = ref(false)
const refused = ref('')
const until = computed(() =>
  hours.value ? props.now + hours.value * HOUR : Date.parse(date.value) || 0,
)
const { isKept } = useUnsaved(
  () => note.value,
  'the note',
  (to) => to.path !== '/alerts' || `${to.query.id}` !== `${props.alert.id}`,
)

/** It opens below what was read: all of it is brought into view. */
const form = ref<HTMLElement>()
onMounted(() => form.value?.scrollIntoView({ block: 'nearest' }))

async function say() {
  try {
    await api.acknowledge(props.alert.id, {
      note: note.value,
      until: Math.round(until.value),
      evenIfWorse: evenIfWorse.value,
    })
    isKept()
    emit('done')
  } catch (e) {
    refused.value = inWords(e)
  }
}
</script>

<template>
  <form ref="form" class="known" @submit.prevent="say">
    <ElInput
      v-model="note"
      type="textarea"
      :rows="2"
      autofocus
      placeholder="a note: what you think it is, what you will do"
      aria-label="Note"
    />
    <label
      >It steps back
      <select v-model="hours" aria-label="For how long it steps back">
        <option v-for="choice in CHOICES" :key="choice.hours" :value="choice.hours">
          {{ choice.words }}
        </option>
      </select></label
    >
    <label v-if="hours === 0"
      >Until <input v-model="date" type="datetime-local" aria-label="Until when it steps back"
    /></label>
    <ElCheckbox v-if="alert.severity !== 'critical'" v-model="evenIfWorse"
      >even if it becomes critical</ElCheckbox
    >
    <p class="soft">
      Struck through and out of the counts<template v-if="until">
        until {{ momentInWords(until, now) }}</template
      ><template v-if="alert.severity !== 'critical' && !evenIfWorse"
        >, or until it is critical</template
      >.
    </p>
    <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
    <span class="buttons">
      <ElButton type="primary" native-type="submit" :disabled="!until"
        >Acknowledge with this note</ElButton
      >
      <ElButton @click="emit('cancel')">Cancel</ElButton>
    </span>
  </form>
</template>

<style scoped>
.known {
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 8px;
}
label {
  color: var(--ink-soft);
}
.buttons {
  display: flex;
  gap: 12px;
}
@media (width < 700px) {
  .buttons {
    width: 100%;
  }
  .buttons :deep(.el-button) {
    flex: 1;
    min-height: 44px;
  }
}
</style>
