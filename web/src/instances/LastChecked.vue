<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { api, Failure } from '@/api/client'
import type { LastChecks } from '@/api/types'
import { clock } from '@/text/format'
import CheckList from './CheckList.vue'

/** What was found when an instance was checked last, be it because it went silent; and checking it again. */
const props = defineProps<{ id: number; since: number }>()
const last = ref<LastChecks>()
const failure = ref('')
const busy = ref(false)

const WHY: Record<string, string> = {
  silence: 'by itself, as it was not read any more, ',
  version: 'by itself, as it is another version now, ',
}
async function load() {
  try {
    last.value = await api.lastChecks(props.id)
    failure.value = ''
  } catch (e) {
    failure.value = e instanceof Failure ? e.message : String(e)
  }
}
async function again() {
  busy.value = true
  try {
    await api.checkNow(props.id)
  } catch (e) {
    failure.value = e instanceof Failure ? e.message : String(e)
  }
  await load()
  busy.value = false
}
onMounted(load)
watch(() => [props.id, props.since], load)
</script>

<template>
  <div class="last">
    <p>
      <span v-if="last?.at" class="soft"
        >Checked {{ WHY[last.by] ?? '' }}at {{ clock(last.at) }}.</span
      >
      <span v-else class="soft">Not checked yet.</span>
      <button class="link" type="button" :disabled="busy" @click="again">
        {{ busy ? 'checking …' : 'check again' }}
      </button>
    </p>
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <CheckList v-if="last?.checks.length" :checks="last.checks" />
  </div>
</template>

<style scoped>
.last {
  display: grid;
  gap: 4px;
}
.last > p {
  display: flex;
  gap: 12px;
}
</style>
