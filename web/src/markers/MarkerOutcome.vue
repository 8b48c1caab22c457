<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Marker } from '@/api/types'
import { useLink } from '@/window/useLink'
import { countsInWords, latest, mostInWords } from './outcome'

/** What a release or a change made better or worse, as it was found by itself some time after it. */
const props = defineProps<{ marker: Marker }>()
const emit = defineEmits<{ leave: [] }>()
/** Of what is about more, these are told. */
const MOST = 50
const { link } = useLink()
const { answer, failure } = useAnswer(
  () => props.marker.id,
  (id, signal) => api.outcomes(id, signal),
)
const told = computed(() => latest(answer.value ?? []))
const earlier = computed(() =>
  (told.value?.earlier ?? []).map(([, words]) => words.replace('so far, ', '')).join(', '),
)
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <section v-else-if="told" aria-label="What it changed">
    <h3>What it changed, {{ told.words }}</h3>
    <ul>
      <li v-for="one in told.all" :key="one.instance">
        <RouterLink
          class="link"
          :to="
            link('/compare', {
              pick: one.instance,
              vs: `marker:${marker.id}`,
              after: told.span,
            })
          "
          @click="emit('leave')"
          >{{ one.instanceName }}</RouterLink>: {{ countsInWords(one) }}
        <p v-for="most in one.most" :key="most.series" class="soft">
          {{ mostInWords(most) }}, {{ most.way }}
        </p>
      </li>
    </ul>
    <p v-if="told.all.length >= MOST" class="soft">Of more than fifty the first are told.</p>
    <p v-if="earlier" class="soft">Also told: {{ earlier }}.</p>
  </section>
</template>

<style scoped>
section {
  max-height: 260px;
  overflow: auto;
}
h3 {
  font-size: 13px;
}
ul {
  padding-left: 16px;
}
p {
  font-size: 12.5px;
}
</style>
