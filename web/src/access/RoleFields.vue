<script setup lang="ts">
import type { Role } from '@/api/types'
import ScopePicker from './ScopePicker.vue'
import { ROLE_WORDS, ROLES } from './useMe'

/** In a form: how far somebody is to go, and of what. */
const role = defineModel<Role>('role', { required: true })
const scope = defineModel<string[]>('scope', { required: true })
defineProps<{ of: string }>()
</script>

<template>
  <label
    >Role
    <select v-model="role" :aria-label="`Role of ${of}`">
      <option v-for="one in ROLES" :key="one" :value="one">{{ one }}: {{ ROLE_WORDS[one] }}</option>
    </select>
  </label>
  <label
    >Scope
    <ScopePicker v-model="scope" :of="of" :disabled="role === 'administer'" />
  </label>
</template>

<style scoped src="./people.css"></style>
