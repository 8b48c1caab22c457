<script setup lang="ts">
import type { Compared } from '@/api/types'
import { number } from '@/text/format'
import { useLink } from '@/window/useLink'

/** Settings that are other ones, statements that are new or gone. */
defineProps<{ told: Compared }>()
const { link } = useLink()
</script>

<template>
  <article aria-label="What was changed">
    <h2>What was changed</h2>
    <p v-if="!told.settings.length && !told.statements.length" class="soft">
      No setting that it tells of, and no statement that is new or gone.
    </p>
    <dl v-if="told.settings.length">
      <template v-for="s in told.settings" :key="s.name">
        <dt>{{ s.name }}</dt>
        <dd>{{ s.before }} → {{ s.after }}</dd>
      </template>
    </dl>
    <ul>
      <li v-for="s in told.statements" :key="`${s.kind} ${s.fingerprint}`">
        <span class="soft">{{ s.kind }}</span>
        <RouterLink class="link code" :to="link('/statements', { statement: s.fingerprint })">{{
          s.text || s.fingerprint
        }}</RouterLink>
        <span class="soft">{{ number(s.callsPerSecond, '/s') }}</span>
      </li>
    </ul>
  </article>
</template>

<style scoped>
article {
  padding: 10px 12px;
  margin-top: 10px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
h2 {
  font-size: 14px;
}
dl {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 10px;
  padding-top: 6px;
}
dt {
  overflow: hidden;
  text-overflow: ellipsis;
}
ul {
  list-style: none;
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding-top: 6px;
}
.code {
  flex: 1;
  overflow: hidden;
  font-family: var(--code);
  font-size: 12.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
p {
  font-size: 12.5px;
}
</style>
