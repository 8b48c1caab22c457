<script setup lang="ts">
import { ref } from 'vue'
import { useKeys } from '@/keys/useKeys'
import PopMenu from './PopMenu.vue'
import { SPANS, type Span } from './rail'

/** The spans of the calendar, by one key. */
const emit = defineEmits<{ pick: [span: Span] }>()
const menu = ref<InstanceType<typeof PopMenu>>()
useKeys({ c: () => void menu.value?.toggle() })
</script>

<template>
  <PopMenu ref="menu" words="span" title="a span of the calendar (c)" up>
    <li v-for="span in SPANS" :key="span">
      <button type="button" class="link" @click="emit('pick', span)">{{ span }}</button>
    </li>
  </PopMenu>
</template>
