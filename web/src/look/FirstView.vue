<script setup lang="ts">
import { useRoute } from 'vue-router'
import { router } from '@/router'
import { askedFor } from '@/access/elsewhere'
import { firstPath, useLikes } from './useLikes'

/**
 * Where one comes in: goes on to what was asked for before one went elsewhere to be known, else to
 * where who looks likes to begin.
 */
const route = useRoute()
async function go() {
  await useLikes().load()
  if (route.name !== 'first') return
  const asked = askedFor()
  const query = { ...route.query }
  delete query.refused
  await router.replace(asked ?? { path: firstPath(), query })
}
void go()
</script>

<template>
  <p class="soft" role="status">…</p>
</template>
