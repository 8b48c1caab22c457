<script setup lang="ts">
import { computed } from 'vue'
import { usePickedInstances } from '@/instances/usePickedInstances'
import EngineLocks from './EngineLocks.vue'
import ThreadDumps from './ThreadDumps.vue'

/** Who waits for whom: sessions of an engine, threads of a JVM. */
const here = usePickedInstances()
const engine = computed(() => here.value.find((i) => i.kind === 'postgresql'))
const jvms = computed(() => here.value.filter((i) => i.kind === 'jvm' || i.kind === 'appserver'))
</script>

<template>
  <p v-if="!engine && !jvms.length" class="soft empty">
    Pick a PostgreSQL engine, a JVM or an application server on the left.
  </p>
  <EngineLocks v-if="engine" :engine="engine" />
  <ThreadDumps v-for="jvm in jvms" :key="jvm.id" :instance="jvm" />
</template>

<style scoped>
.empty {
  padding: 24px 0;
}
</style>
