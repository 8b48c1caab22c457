<script setup lang="ts">
import { computed } from 'vue'
import type { Marker } from '@/api/types'
import { useLink } from '@/window/useLink'
import { AFTER, countsInWords, latest, mostInWords } from './outcome'

/** What a release or a change made better or worse, as it was found by itself some time after it. */
const props = defineProps<{ marker: Marker }>()
const emit = defineEmits<{ leave: [] }>()
const { link } = useLink()
const told = computed(() => latest(props.marker))
const earlier = computed(() =>
  AFTER.filter(
    ([span]) => span !== told.value?.span && props.marker.outcomes.some((one) => one.span === span),
  ).map(([span]) => span),
)
</script>

<template>
  <section v-if="told" aria-label="What it changed">
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
    <p v-if="earlier.length" class="soft">
      Also told: after
      {{
        earlier
          .map((span) =>
            span === 'minutes' ? 'ten minutes' : span === 'hour' ? 'an hour' : `a ${span}`,
          )
          .join(', ')
      }}.
    </p>
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
