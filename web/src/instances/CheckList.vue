<script setup lang="ts">
import { computed } from 'vue'
import type { Check } from '@/api/types'
import CopyText from '@/text/CopyText.vue'

/** What was checked: found, wanted, and the commands that mend it there. What works folds to one line. */
const props = defineProps<{ checks: Check[]; recipes?: { key: string; name: string }[] }>()
const emit = defineEmits<{ recipe: [key: string] }>()

const SIGNS: Record<string, string> = { pass: '✓', warn: '◣', fail: '◆' }
const WORDS: Record<string, string> = { pass: 'works', warn: 'works in part', fail: 'fails' }
const nameOf = (key: string) => props.recipes?.find((r) => r.key === key)?.name
const departing = computed(() => props.checks.filter((c) => c.outcome !== 'pass'))
const passing = computed(() => props.checks.filter((c) => c.outcome === 'pass'))
</script>

<template>
  <ul class="checks" aria-label="Checks">
    <li v-for="check in departing" :key="check.check" :class="check.outcome">
      <span class="sign" :title="WORDS[check.outcome]" aria-hidden="true">{{
        SIGNS[check.outcome]
      }}</span>
      <div>
        <p>
          <strong class="name">{{ check.check }}</strong> {{ WORDS[check.outcome] }}:
          {{ check.found }}
          <span v-if="check.wanted" class="soft">· wanted: {{ check.wanted }}</span>
        </p>
        <p v-if="check.advice">
          {{ check.advice }}
          <strong v-if="check.restartNeeded" class="warning">It must restart there for it.</strong>
        </p>
        <button
          v-if="nameOf(check.recipe)"
          class="link"
          type="button"
          @click="emit('recipe', check.recipe)"
        >
          read it by {{ nameOf(check.recipe) }}
        </button>
        <CopyText v-if="check.fix" :text="check.fix" what="commands" />
      </div>
    </li>
    <li v-if="passing.length" class="passing">
      <span class="sign" aria-hidden="true">✓</span>
      <details :open="!departing.length">
        <summary>
          {{ passing.length === checks.length ? 'All of it works' : 'Works' }}:
          {{ passing.map((c) => c.check.toLowerCase()).join(', ') }}
        </summary>
        <p v-for="check in passing" :key="check.check">
          <strong>{{ check.check }}</strong> {{ check.found }}
        </p>
      </details>
    </li>
  </ul>
</template>

<style scoped>
.checks {
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--paper);
  list-style: none;
}
li {
  display: flex;
  gap: 8px;
  padding: 4px 0;
}
li > div,
details {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.sign {
  width: 14px;
}
.warn .sign {
  color: var(--apricot);
}
.fail .sign,
.fail .name {
  color: var(--raspberry);
}
summary {
  cursor: pointer;
}
</style>
