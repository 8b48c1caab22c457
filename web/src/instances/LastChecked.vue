<script setup lang="ts">
import { ref } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { clock } from '@/text/format'
import CheckList from './CheckList.vue'

/** What was found when an instance was checked last, be it because it went silent; and checking it again. */
const props = defineProps<{ id: number; since: number }>()
const {
  answer: last,
  failure,
  again: load,
} = useAnswer(() => props.id, api.lastChecks, { follows: () => props.since })
const busy = ref(false)

const WHY: Record<string, string> = {
  silence: 'by itself, as it was not read any more, ',
  version: 'by itself, as it is another version now, ',
}
async function again() {
  const id = props.id
  busy.value = true
  try {
    await api.checkNow(id)
    await load()
  } catch (e) {
    if (id === props.id) failure.value = inWords(e)
  }
  busy.value = false
}
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
