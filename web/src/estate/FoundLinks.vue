<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ref } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { FoundLink } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import { many } from '@/text/format'

/** Who uses whom, as addresses tell: a link only once a person says so. */
const { instances, reload } = useInstances()
const {
  answer: found,
  failure,
  again,
} = useAnswer(
  () => instances.value.length,
  (_, signal) => api.foundLinks(signal),
)
const nameOf = (id: number) => instances.value.find((i) => i.id === id)?.name ?? `instance ${id}`
const busy = ref(false)
const refused = ref('')

async function confirm(links: FoundLink[]) {
  busy.value = true
  refused.value = ''
  try {
    for (const one of links) {
      await api.confirmUse(one.instance, one.use)
    }
  } catch (e) {
    refused.value = inWords(e)
  } finally {
    await Promise.all([reload(), again()])
    busy.value = false
  }
}
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <section v-if="found?.length" class="found" aria-label="Links found by address">
    <h2>
      {{ many(found.length, 'link') }} found by address
      <button
        v-if="found.length > 1"
        v-may="'shape'"
        type="button"
        class="link"
        :disabled="busy"
        @click="confirm(found)"
      >
        confirm all
      </button>
    </h2>
    <ul>
      <li v-for="one in found" :key="`${one.instance} ${one.through} ${one.to}`">
        <strong>{{ nameOf(one.instance) }}</strong>
        {{ one.through ? `by its ${one.through}` : 'by its start arguments or properties' }} leads
        to <strong>{{ one.to }}</strong> <span class="soft">({{ one.address }})</span>{{ ' ' }}
        <button
          v-may="'shape'"
          type="button"
          class="link"
          :disabled="busy"
          :aria-label="`${nameOf(one.instance)} uses ${one.to}: confirm`"
          @click="confirm([one])"
        >
          confirm
        </button>
      </li>
    </ul>
    <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
  </section>
</template>

<style scoped>
.found {
  margin-bottom: 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
h2 {
  padding-bottom: 4px;
  font-size: 14px;
}
h2 .link {
  padding-left: 8px;
  font-weight: 400;
}
ul {
  padding: 0;
  list-style: none;
}
li {
  padding: 2px 0;
}
</style>
