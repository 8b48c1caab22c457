<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { FoundJvm } from '@/api/types'

/** The JVMs of Jam Jar's own machine and user: picked, one is attached to, no port needed. */
const picked = defineModel<string>({ required: true })
const found = ref<FoundJvm[]>()
const failure = ref('')

onMounted(async () => {
  try {
    found.value = await api.jvms()
  } catch (e) {
    failure.value = inWords(e)
  }
})
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else-if="!found" class="soft">Looking for JVMs of this machine …</p>
  <p v-else-if="!found.length" class="soft">
    Jam Jar's user runs no other JVM on this machine. Give host and port instead.
  </p>
  <ul v-else class="found" aria-label="JVMs of this machine">
    <li v-for="jvm in found" :key="jvm.process">
      <label
        ><input v-model="picked" type="radio" name="jvm" :value="jvm.command" />
        <code>{{ jvm.command }}</code>
        <span class="soft"
          >process {{ jvm.process }}{{ jvm.own ? ', Jam Jar itself' : '' }}</span
        ></label
      >
    </li>
  </ul>
</template>

<style scoped>
.found {
  max-height: 160px;
  overflow: auto;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  list-style: none;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 0;
}
code {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
