<script setup lang="ts">
import { computed } from 'vue'
import { useMe } from '@/access/useMe'
import type { Role } from '@/api/types'
import PartsBar from '@/frame/PartsBar.vue'
import EstateFile from './EstateFile.vue'
import EstateGroups from './EstateGroups.vue'
import EstateList from './EstateList.vue'
import EstateStore from './EstateStore.vue'
import StoredCredentials from './StoredCredentials.vue'
import { useInAddress } from '@/window/useInAddress'

/** Everything under watch: what there is, how many there should be, from a file and into one. */
const part = useInAddress('part', 'instances')
const PARTS = [
  { key: 'instances', words: 'instances' },
  { key: 'file', words: 'from a file, into a file' },
  { key: 'groups', words: 'how many there should be' },
  { key: 'credentials', words: 'credentials', takes: 'shape' as Role },
  { key: 'store', words: 'the store', whole: true },
]
const { may, whole } = useMe()
const parts = computed(() =>
  PARTS.filter((one) => may(one.takes ?? 'look') && (whole() || !one.whole)),
)
</script>

<template>
  <section aria-label="Estate">
    <PartsBar v-model="part" :parts="parts" />
    <EstateList v-if="part === 'instances'" />
    <EstateFile v-else-if="part === 'file'" />
    <EstateGroups v-else-if="part === 'groups'" />
    <StoredCredentials v-else-if="part === 'credentials'" />
    <EstateStore v-else />
  </section>
</template>
