<script setup lang="ts">
import LastChanges from '@/access/LastChanges.vue'
import '@/look/choices'
import { useMe } from '@/access/useMe'
import { ElButton, ElDialog, ElForm, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { api, fieldOf, inWords } from '@/api/client'
import { useGoing } from '@/frame/useGoing'
import CopyText from '@/text/CopyText.vue'
import { useInstances } from '@/instances/useInstances'
import { useLink } from '@/window/useLink'
import { usePicked } from '@/window/usePicked'
import MarkerOutcome from './MarkerOutcome.vue'
import { MARKS, useMarkers } from './useMarkers'
import { useUnsaved } from '@/unsaved/useUnsaved'

/** Sets a marker, or changes or removes the one given. */
const props = defineProps<{ id?: number; at?: number }>()
const emit = defineEmits<{ close: [] }>()

const KINDS = [
  'release',
  'change',
  'incident',
  'noise',
  'maintenance',
  'new normal',
  'holiday',
  'note',
]
const MEANS: Record<string, string> = {
  maintenance:
    'Alerts rise and are kept, but are not told until it ends. Nothing is learned from it.',
  incident: 'Nothing is learned from this time.',
  noise: 'It looked like an incident and was none: a limit should not tell of it.',
  'new normal':
    'From the next learning on (at night, or on Baseline) nothing before it teaches what is normal.',
  holiday: 'Its days are judged, and learned from, as Sundays: from the next learning on.',
}
const { markers, reload } = useMarkers()
const { later } = useGoing()
const { instances } = useInstances()
const { picked } = usePicked()
const { may } = useMe()
const before = markers.value.find((m) => m.id === props.id)

const local = (at: number) =>
  new Date(at - new Date(at).getTimezoneOffset() * 60_000).toISOString().slice(0, 19)
const form = reactive({
  kind: before?.kind ?? 'release',
  title: before?.title ?? '',
  note: before?.note ?? '',
  // of what comes again the first time
  from: local(before?.first ?? props.at ?? Date.now()),
  to: before?.to ? local(before.to - before.from + before.first) : '',
  repeats: before?.repeats ?? '',
  until: before?.until ? local(before.until) : '',
  reach: before
    ? `${before.reach.level} ${before.reach.of}`
    : picked.value.length === 1
      ? `instance ${picked.value[0]}`
      : 'all ',
})
const MAINTENANCE = 'maintenance'
const spans = computed(() => ['incident', 'noise', 'maintenance', 'holiday'].includes(form.kind))
const reaches = computed(() => {
  const sites = [...new Set(instances.value.map((i) => i.site))].filter(Boolean)
  const groups = [...new Set(instances.value.map((i) => i.group))].filter(Boolean)
  return [
    { value: 'all ', label: 'everything' },
    ...sites.map((s) => ({ value: `site ${s}`, label: `the site ${s}` })),
    ...groups.map((g) => ({ value: `group ${g}`, label: `the group ${g}` })),
    ...instances.value.map((i) => ({ value: `instance ${i.id}`, label: i.name })),
  ]
})
/** What it made better or worse, of the first instance that it is about. */
const { link } = useLink()
const compared = computed(() => {
  const of = before?.reach
  if (!before || !of || before.from > Date.now()) return ''
  const first = picked.value[0]
  const about = instances.value.filter(
    (i) =>
      of.level === 'all' ||
      of.of === (of.level === 'site' ? i.site : of.level === 'group' ? i.group : `${i.id}`),
  )
  const pick = about.some((i) => i.id === first) ? first : about[0]?.id
  return pick === undefined ? '' : link('/compare', { pick, vs: `marker:${before.id}` })
})
const { closing } = useUnsaved(() => [form.title, form.note], 'the marker')
const failure = ref('')
const fault = ref('')

async function attempt(act: () => Promise<unknown>) {
  try {
    await act()
    await reload()
    emit('close')
  } catch (e) {
    failure.value = inWords(e)
    fault.value = fieldOf(e)
  }
}

function remove() {
  const id = before!.id
  later(`marker ${id}`, `The marker “${before!.title}” goes`, async () => {
    await api.removeMarker(id)
    await reload()
  })
  emit('close')
}

const zone = before?.repeats ? before.zone : Intl.DateTimeFormat().resolvedOptions().timeZone
const body = computed(() => {
  const [level = 'all', ...of] = form.reach.split(' ')
  const repeats = form.kind === MAINTENANCE ? form.repeats : ''
  return {
    kind: form.kind,
    title: form.title,
    note: form.note,
    from: Date.parse(form.from),
    to: form.to ? Date.parse(form.to) : null,
    reach: { level, of: of.join(' ') },
    repeats,
    zone,
    until: repeats && form.until ? Date.parse(form.until) : null,
  }
})
/** For a script that deploys: the same, from now on for a quarter of an hour. */
const curl = computed(() => {
  const { kind, title, note, from, to, reach } = body.value
  const told = JSON.stringify({
    kind,
    title: title || 'deployment',
    note,
    from,
    to,
    reach,
  }).replace(
    /"from":\d+,"to":(\d+|null)/,
    `"from":'$(date +%s)'000,"to":'$(($(date +%s) + 900))'000`,
  )
  return `curl -sS -X POST ${window.location.origin}/api/markers -H 'Content-Type: application/json' -H "Authorization: Bearer $JAMJAR_TOKEN" -d '${told}'`
})
const save = () =>
  void attempt(() => (before ? api.changeMarker(before.id, body.value) : api.addMarker(body.value)))
</script>

<template>
  <ElDialog
    append-to="#answers"
    :model-value="true"
    :title="!may('act') ? 'The marker' : before ? 'Change the marker' : 'Set a marker'"
    width="460px"
    :before-close="closing"
    @close="emit('close')"
  >
    <ElForm :disabled="!may('act')" @submit.prevent="save">
      <label
        >Kind<ElSelect v-model="form.kind" aria-label="Kind">
          <ElOption v-for="k in KINDS" :key="k" :value="k" :label="`${MARKS[k]} ${k}`" /></ElSelect
      ></label>
      <label :class="{ fault: fault === 'title' }"
        >Title<ElInput v-model="form.title" aria-label="Title" placeholder="freight 4.8" autofocus
      /></label>
      <div class="pair">
        <label
          >{{ spans ? 'From' : 'At'
          }}<input
            v-model="form.from"
            type="datetime-local"
            :disabled="!may('act')"
            step="1"
            aria-label="From"
        /></label>
        <label v-if="spans"
          >{{ form.kind === 'holiday' ? 'Until; empty for one day' : 'Until; empty while it lasts'
          }}<input
            v-model="form.to"
            type="datetime-local"
            :disabled="!may('act')"
            step="1"
            aria-label="Until"
        /></label>
      </div>
      <div v-if="form.kind === MAINTENANCE" class="pair">
        <label :class="{ fault: fault === 'repeats' }"
          >Comes again<select
            v-model="form.repeats"
            :disabled="!may('act')"
            aria-label="Comes again"
          >
            <option value="">once only</option>
            <option value="day">each day at this time</option>
            <option value="week">each week at this time</option>
          </select></label
        >
        <label v-if="form.repeats" :class="{ fault: fault === 'until' }"
          >For the last time; empty for ever<input
            v-model="form.until"
            type="datetime-local"
            :disabled="!may('act')"
            aria-label="For the last time"
        /></label>
      </div>
      <label
        >About<ElSelect v-model="form.reach" aria-label="About">
          <ElOption
            v-for="r in reaches"
            :key="r.value"
            :value="r.value"
            :label="r.label" /></ElSelect
      ></label>
      <label>Note<ElInput v-model="form.note" type="textarea" :rows="2" aria-label="Note" /></label>
      <p v-if="MEANS[form.kind]" class="soft">{{ MEANS[form.kind] }}</p>
      <details v-if="form.kind === MAINTENANCE && !before">
        <summary class="soft">for a script that deploys</summary>
        <CopyText what="line" :text="curl" />
        <p class="soft">
          The token of a program, of the role <em>act</em>: made under your name, people and
          programs.
        </p>
      </details>
      <MarkerOutcome v-if="before?.outcome" :marker="before" @leave="emit('close')" />
      <p v-if="compared">
        <RouterLink class="link" :to="compared" @click="emit('close')"
          >compare before and after it</RouterLink
        >
      </p>
      <LastChanges v-if="before" what="marker" :of="before.id" />
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <div class="buttons">
        <ElButton
          v-if="may('act')"
          type="primary"
          native-type="submit"
          :disabled="!form.title.trim()"
          >{{ before ? 'Save the marker' : 'Set the marker' }}</ElButton
        >
        <ElButton v-if="may('act')" @click="closing(() => emit('close'))">Cancel</ElButton>
        <button v-else class="link" type="button" @click="emit('close')">Close</button>
        <button v-if="before && may('act')" class="link remove" type="button" @click="remove">
          remove the marker
        </button>
      </div>
    </ElForm>
  </ElDialog>
</template>

<style scoped>
form {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
label {
  flex: 1;
  color: var(--ink-soft);
  font-size: 12px;
}
.fault {
  color: var(--raspberry);
}
.pair {
  display: flex;
  gap: 8px;
}
input {
  width: 100%;
}
select {
  width: 100%;
  height: 32px;
}
.buttons {
  display: flex;
  align-items: center;
}
.remove {
  margin-left: auto;
  color: var(--raspberry);
}
</style>
