<script setup lang="ts">
import { computed } from 'vue'
import { plain } from '@/text/format'

/** How many take longer than some times: four counts, each with a bar in one scale. */
const props = defineProps<{ title: string; counts: { ms: number; count: number }[] }>()
const most = computed(() => Math.max(1, ...props.counts.map((c) => c.count)))
const edge = (ms: number) => (ms < 120_000 ? plain(ms / 1000, 's') : `${ms / 60_000} min`)
</script>

<template>
  <section class="longer" :aria-label="title">
    <h2>{{ title }}</h2>
    <dl>
      <div v-for="one in counts" :key="one.ms">
        <dt class="soft">{{ edge(one.ms) }}</dt>
        <dd>{{ one.count }}</dd>
        <dd class="bar" aria-hidden="true" :style="{ width: `${(86 * one.count) / most}%` }"></dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
.longer {
  padding: 8px 12px 10px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
h2 {
  font-size: 14px;
}
dl {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  margin: 4px 0 0;
}
dl div {
  padding-left: 8px;
  border-left: 1px solid var(--line);
}
dt {
  font-size: 12.5px;
}
dd {
  margin: 0;
  font-size: 16px;
}
.bar {
  min-width: 1px;
  height: 8px;
  background: var(--fill);
}
</style>
