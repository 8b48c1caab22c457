<script setup lang="ts">
import { vMay } from '@/access/vMay'
import '@/look/choices'
import { ElButton, ElDialog, ElInput } from 'element-plus'
import { reactive, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Instance } from '@/api/types'
import { useMarkers } from '@/markers/useMarkers'
import { date, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'

/** What a person does to what is normal: freeze it, begin it anew, mark a holiday, learn again. */
const WEEKS = 5 * 7 * 86_400_000
const props = defineProps<{ instance: Instance; at: number }>()
const emit = defineEmits<{ learned: [] }>()
const now = useClock()
const { reload } = useMarkers()
const busy = ref(false)
const failure = ref('')
const said = ref('')
const form = reactive({ what: '' as '' | 'freeze' | 'normal' | 'holiday', name: '', day: '' })

async function attempt(words: string, act: () => Promise<unknown>) {
  busy.value = true
  failure.value = ''
  said.value = ''
  try {
    await act()
    form.what = ''
    said.value = words
    emit('learned')
  } catch (e) {
    failure.value = inWords(e)
  } finally {
    busy.value = false
  }
}
const learn = () => api.learn(props.instance.id)
const mark = async (kind: string, title: string, from: number) => {
  await api.addMarker({
    kind,
    title,
    note: '',
    from,
    to: null,
    reach: { level: 'instance', of: `${props.instance.id}` },
  })
  await reload()
  await learn()
}
const open = (what: typeof form.what) => {
  failure.value = ''
  Object.assign(form, { what, name: '', day: new Date(props.at).toISOString().slice(0, 10) })
}
function save() {
  const name = form.name.trim()
  const to = Math.round(props.at)
  if (form.what === 'freeze')
    void attempt(`kept as “${name}”`, () =>
      api.freeze(props.instance.id, { name, from: to - WEEKS, to }),
    )
  else if (form.what === 'normal')
    void attempt('learned anew from there', () => mark('new normal', name, to))
  else
    void attempt('a Sunday from now on', () =>
      mark('holiday', name, Date.parse(`${form.day}T12:00:00Z`)),
    )
}
const TITLES = {
  freeze: 'Freeze the baseline',
  normal: 'New normal from here',
  holiday: 'Mark a holiday',
  '': '',
}
</script>

<template>
  <p v-may="'shape'" class="acts">
    <span v-if="said" class="soft" role="status">{{ said }}</span>
    <span v-if="busy" class="soft" role="status">Learning …</span>
    <span v-if="failure && !form.what" class="warning" role="alert">◣ {{ failure }}</span>
    <button type="button" class="link" @click="open('freeze')">freeze as …</button>
    <button type="button" class="link" @click="open('normal')">new normal from here</button>
    <button type="button" class="link" @click="open('holiday')">mark a holiday</button>
    <button type="button" class="link" :disabled="busy" @click="attempt('learned anew', learn)">
      learn again
    </button>
    <ElDialog
      v-if="form.what"
      append-to="#answers"
      :model-value="true"
      :title="TITLES[form.what]"
      width="440px"
      @close="form.what = ''"
    >
      <form class="form" @submit.prevent="save">
        <p v-if="form.what === 'freeze'" class="soft">
          What is normal of {{ instance.name }}, learned from {{ date(at - WEEKS) }} to
          {{ date(at) }}, is kept by a name, for ever. Move the window to choose another end.
        </p>
        <p v-else-if="form.what === 'normal'" class="soft">
          Nothing before {{ momentInWords(at, now) }} teaches what is normal of
          {{ instance.name }} any more. Until there are three weeks of it, wider stretches serve,
          and it says so.
        </p>
        <p v-else class="soft">
          The day is judged, and learned from, as a Sunday. For more than {{ instance.name }}, mark
          it on the rail.
        </p>
        <label
          >{{ form.what === 'freeze' ? 'Name' : 'What' }}
          <ElInput
            v-model="form.name"
            :aria-label="form.what === 'freeze' ? 'Name' : 'What'"
            maxlength="80"
            autofocus
          />
        </label>
        <label v-if="form.what === 'holiday'"
          >Day <input v-model="form.day" type="date" aria-label="Day"
        /></label>
        <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
        <div class="buttons">
          <ElButton type="primary" native-type="submit" :disabled="busy || !form.name.trim()">{{
            busy ? 'Learning …' : TITLES[form.what]
          }}</ElButton>
          <ElButton @click="form.what = ''">Cancel</ElButton>
        </div>
      </form>
    </ElDialog>
  </p>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin-left: auto;
}
.form {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
</style>
