<script setup lang="ts">
import type { Check } from '@/api/types'

/** What was checked: found, wanted, and the command that mends it there. */
defineProps<{ checks: Check[] }>()

const SIGNS: Record<string, string> = { pass: '✓', warn: '◣', fail: '◆' }
const WORDS: Record<string, string> = { pass: 'works', warn: 'works in part', fail: 'fails' }
</script>

<template>
  <ul class="checks" aria-label="Checks">
    <li v-for="check in checks" :key="check.check" :class="check.outcome">
      <span class="sign" :title="WORDS[check.outcome]" aria-hidden="true">{{
        SIGNS[check.outcome]
      }}</span>
      <div>
        <p>
          <strong>{{ check.check }}</strong>
          {{ check.outcome === 'pass' ? '' : WORDS[check.outcome] + ': ' }}{{ check.found }}
        </p>
        <p v-if="check.fix" class="fix">
          {{ check.fix
          }}<span v-if="check.restartNeeded" class="warning"> The engine must restart for it.</span>
        </p>
      </div>
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
  padding: 2px 0;
}
.sign {
  width: 14px;
}
.warn .sign {
  color: var(--apricot);
}
.fail .sign,
.fail strong {
  color: var(--raspberry);
}
.fix {
  color: var(--ink-soft);
  font: 12px/1.5 var(--code);
  overflow-wrap: anywhere;
}
</style>
