<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Alert, AlertStory } from '@/api/types'
import { momentInWords } from '@/text/format'
import { useUnsaved } from '@/unsaved/useUnsaved'
import { lastNote, linked } from './story'

/** What to do: what somebody wrote for this limit, instance or group, the counter's own advice, and what was said the last time. */
const props = defineProps<{ alert: Alert; story: AlertStory; group: string; now: number }>()
const emit = defineEmits<{ done: [] }>()

const writing = ref(false)
const words = ref('')
const reach = ref('limit')
const refused = ref('')
const OF: Record<string, string> = {
  limit: 'for this limit',
  instance: 'for this instance',
  group: 'for its group',
}
const reaches = computed(() => ['limit', 'instance', ...(props.group ? ['group'] : [])])
const of = computed(() =>
  reach.value === 'limit'
    ? `${props.alert.limit}`
    : reach.value === 'instance'
      ? `${props.alert.instance}`
      : props.group,
)
const note = computed(() => lastNote(props.story.earlier))
const { isKept } = useUnsaved(
  () => writing.value && words.value,
  'what to do',
  (to) => to.path !== '/alerts' || `${to.query.id}` !== `${props.alert.id}`,
)
const there = (level: string) =>
  props.story.whatToDo.find((one) => one.reach === level)?.words ?? ''
function begin() {
  reach.value = props.story.whatToDo[0]?.reach ?? 'limit'
  words.value = there(reach.value)
  writing.value = true
}
async function save() {
  try {
    await api.putWhatToDo({ reach: reach.value, of: of.value, words: words.value })
    writing.value = false
    refused.value = ''
    isKept()
    emit('done')
  } catch (e) {
    refused.value = inWords(e)
  }
}
</script>

<template>
  <div class="card">
    <h3>
      What to do
      <button v-if="!writing" v-may="'act'" type="button" class="link" @click="begin">
        {{ story.whatToDo.length ? 'change' : 'write it down' }}
      </button>
    </h3>
    <form v-if="writing" @submit.prevent="save">
      <select v-model="reach" aria-label="For what it is to be done" @change="words = there(reach)">
        <option v-for="level in reaches" :key="level" :value="level">{{ OF[level] }}</option>
      </select>
      <ElInput
        v-model="words"
        type="textarea"
        :rows="3"
        maxlength="2000"
        placeholder="a text, or a link"
        aria-label="What to do"
      />
      <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
      <ElButton type="primary" native-type="submit">Save</ElButton>
      <ElButton @click="writing = false">Cancel</ElButton>
    </form>
    <template v-else>
      <p v-for="one in story.whatToDo" :key="one.reach">
        <template v-for="(part, i) in linked(one.words)" :key="i"
          ><a v-if="part.href" class="link" :href="part.href" rel="noreferrer">{{ part.text }}</a
          ><template v-else>{{ part.text }}</template></template
        >
        <span class="soft"> {{ OF[one.reach] }}</span>
      </p>
      <p v-if="story.suggests">{{ story.suggests }}</p>
      <p v-else-if="!story.whatToDo.length" class="soft">Nobody has written down what to do.</p>
      <p v-if="story.readWith.length" class="soft">
        Read it with {{ story.readWith.map((other) => other.title.toLowerCase()).join(', ') }}.
      </p>
      <p v-if="note" class="soft">
        Last time, {{ note.noted ? momentInWords(note.noted, now) : '' }}, by {{ note.who }}: “{{
          note.note
        }}”
      </p>
    </template>
  </div>
</template>

<style scoped>
form,
.card {
  display: flex;
  flex-direction: column;
  align-items: start;
  gap: 8px;
}
</style>
