<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import { inWords } from '@/api/client'
import type { Instance } from '@/api/types'
import { KINDS } from '@/instances/kinds'
import { format } from './arrangement'
import { useArrangements } from './useArrangements'
import type { useCharts } from './useCharts'

/** How the charts are arranged is kept for the instance or for all of its kind, or goes back to the original. */
const props = defineProps<{ charts: ReturnType<typeof useCharts>; instance: Instance }>()
const emit = defineEmits<{ kept: [] }>()
const { keep, forget } = useArrangements()
const failure = ref('')
const all = computed(
  () => `every ${KINDS[props.instance.kind]?.replace('Application', 'application')}`,
)

async function attempt(what: () => Promise<void>) {
  try {
    await what()
    failure.value = ''
    // the address need not say any more what is kept
    props.charts.choose([])
    emit('kept')
  } catch (e) {
    failure.value = inWords(e)
  }
}
function keepFor(reach: 'kind' | 'instance') {
  const of = reach === 'kind' ? props.instance.kind : `${props.instance.id}`
  const charts = props.charts.placed.value.map(format)
  void attempt(() => keep({ reach, of, charts }))
}
async function original() {
  const kept = props.charts.kept.value
  const whose = kept?.reach === 'kind' ? all.value : props.instance.name
  const sure = await ElMessageBox.confirm(
    kept
      ? `What was kept for ${whose} is forgotten.`
      : 'Show the charts that this kind of instance begins with?',
    'Back to the original',
    { confirmButtonText: 'Go back', cancelButtonText: 'Keep mine' },
  ).catch(() => false)
  if (sure) await attempt(async () => (kept ? await forget(kept) : undefined))
}
</script>

<template>
  <div class="arrangement" role="toolbar" aria-label="Arrangement">
    <span v-if="charts.changed.value">Arranged otherwise, in this address only.</span>
    <span v-else-if="charts.kept.value" class="soft"
      >As kept for {{ charts.kept.value.reach === 'kind' ? all : instance.name }}.</span
    >
    <span v-else class="soft"
      >Drag a chart to another place, its corner to another size; or by the words below it.</span
    >
    <span v-if="charts.changed.value" v-may="'shape'" class="keep">
      <button class="link" type="button" @click="keepFor('instance')">
        keep for {{ instance.name }}
      </button>
      <button class="link" type="button" @click="keepFor('kind')">keep for {{ all }}</button>
    </span>
    <button
      v-if="charts.changed.value && charts.kept.value"
      class="link"
      type="button"
      @click="charts.choose([])"
    >
      undo the changes
    </button>
    <button
      v-if="charts.changed.value || charts.kept.value"
      class="link"
      type="button"
      @click="original"
    >
      back to the original …
    </button>
    <span v-if="failure" class="warning" role="alert">◣ {{ failure }}</span>
  </div>
</template>

<style scoped>
.keep {
  display: flex;
  gap: 16px;
}
.arrangement {
  display: flex;
  gap: 16px;
  margin-bottom: 8px;
  padding: 4px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
</style>
