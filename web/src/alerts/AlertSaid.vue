<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { vMay } from '@/access/vMay'
import { api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import type { Alert } from '@/api/types'
import { useMarkers } from '@/markers/useMarkers'
import { momentInWords } from '@/text/format'
import { useUnsaved } from '@/unsaved/useUnsaved'
import AcknowledgeForm from './AcknowledgeForm.vue'
import { isOfHeads, titleOf } from './alert'

/**
 * What was said to an alert, and what can be: that one knows of it, a comment, that it was an
 * incident. Beside that stands what the page puts there.
 */
const props = defineProps<{ alert: Alert; group: string; now: number }>()
const emit = defineEmits<{ done: [] }>()

const note = ref('')
const writing = ref<'acknowledge' | 'comment'>()
const { refused, attempt } = useAttempt()
const { isKept } = useUnsaved(
  () => note.value,
  'the comment',
  (to) => to.path !== '/alerts' || `${to.query.id}` !== `${props.alert.id}`,
)
const { markers, reload } = useMarkers()

function said() {
  writing.value = undefined
  emit('done')
}
async function say() {
  if (!(await attempt(() => api.comment(props.alert.id, note.value)))) return
  note.value = ''
  isKept()
  said()
}

/** A marker of its time: a limit that is tried is held against it. */
const markIncident = () =>
  attempt(async () => {
    await api.addMarker({
      kind: 'incident',
      title: titleOf(props.alert),
      note: `from alert ${props.alert.id} of ${props.alert.subject}`,
      from: props.alert.since,
      to: props.alert.ended,
      reach: { level: 'instance', of: `${props.alert.instance}` },
    })
    await reload()
  })
/** Whether its time is marked as an incident. */
const isMarked = computed(() =>
  markers.value.some(
    (m) =>
      m.kind === 'incident' &&
      m.from <= props.alert.since &&
      (m.to ?? Infinity) >= props.alert.since &&
      (m.reach.level === 'all' ||
        m.reach.of === `${props.alert.instance}` ||
        m.reach.of === props.group),
  ),
)
</script>

<template>
  <ul v-if="alert.acknowledged || alert.notes.length" class="notes">
    <li v-if="alert.acknowledged">
      <span class="soft"
        >{{ momentInWords(alert.acknowledged.at, now) }} {{ alert.acknowledged.who }}</span
      >
      acknowledged<template v-if="alert.acknowledged.note"
        >: {{ alert.acknowledged.note }}</template
      >
    </li>
    <li v-for="(n, i) in alert.notes" :key="i">
      <span class="soft">{{ momentInWords(n.at, now) }} {{ n.who }}</span> {{ n.note }}
    </li>
  </ul>
  <AcknowledgeForm
    v-if="writing === 'acknowledge'"
    :alert="alert"
    :now="now"
    @done="said"
    @cancel="writing = undefined"
  />
  <form v-else-if="writing" class="say" @submit.prevent="say">
    <ElInput
      v-model="note"
      type="textarea"
      :rows="2"
      autofocus
      placeholder="a comment"
      aria-label="Comment"
    />
    <ElButton type="primary" native-type="submit">Add the comment</ElButton>
    <ElButton @click="writing = undefined">Cancel</ElButton>
  </form>
  <div v-else class="buttons">
    <ElButton
      v-if="alert.ended === null || !alert.acknowledged"
      v-may="'act'"
      :type="alert.known ? 'default' : 'primary'"
      @click="writing = 'acknowledge'"
      >{{ alert.known ? 'Known until …' : 'Acknowledge' }}</ElButton
    >
    <ElButton v-may="'act'" @click="writing = 'comment'">Comment</ElButton>
    <button
      v-if="!isMarked && !isOfHeads(alert)"
      v-may="'act'"
      type="button"
      class="link"
      @click="markIncident"
    >
      mark as incident
    </button>
    <slot />
  </div>
  <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
</template>

<style scoped>
.notes {
  list-style: none;
}
.say {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.buttons {
  display: flex;
  align-items: center;
  gap: 12px;
}
.buttons :deep(.el-button + .el-button) {
  margin-left: 0;
}
@media (width < 700px) {
  .buttons {
    flex-wrap: wrap;
  }
  .buttons :deep(.el-button),
  .say :deep(.el-button) {
    flex: 1;
    min-height: 44px;
  }
  .buttons :slotted(a) {
    min-height: 44px;
    padding: 12px 0;
  }
}
</style>
