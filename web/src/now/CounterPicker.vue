<script setup lang="ts">
import { ElDrawer, ElInput } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import type { Series } from '@/api/types'
import { number } from '@/text/format'
import { search } from '@/counters/search'
import { labelsOf } from '@/series/labels'
import { keyOf } from '@/series/useSeries'

/** All counters of the instance with their live values; search, add to the bench, take away. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ title: string; series: Series[]; charted: string[] }>()
const emit = defineEmits<{ add: [key: string]; remove: [key: string] }>()

const MOST = 120
const words = ref('')
const input = ref<InstanceType<typeof ElInput>>()
const found = computed(() => search(props.series, words.value))
const listed = computed(() => found.value.slice(0, MOST).map((s) => reactive(s)))

const isCharted = (s: Series) => props.charted.includes(keyOf(s))

function toggle(s: Series) {
  if (isCharted(s)) emit('remove', keyOf(s))
  else emit('add', keyOf(s))
}
</script>

<template>
  <ElDrawer
    v-model="open"
    append-to="#answers"
    :title="title"
    size="460px"
    :modal="false"
    modal-penetrable
    @opened="input?.focus()"
  >
    <ElInput
      ref="input"
      v-model="words"
      placeholder="a word, a unit, or a question: who is waiting"
      aria-label="Search counters"
      clearable
      @keydown.enter.prevent="found[0] && toggle(found[0])"
    />
    <p class="soft count">
      {{ found.length }} of {{ series.length }}; Enter takes the first
      <span v-if="found.length > MOST">; the first {{ MOST }} are listed</span>
    </p>
    <ul>
      <li v-for="s in listed" :key="s.id">
        <button
          class="plain row"
          type="button"
          :aria-pressed="isCharted(s)"
          :title="s.suggests"
          @click="toggle(s)"
        >
          <span class="mark" aria-hidden="true">{{ isCharted(s) ? '−' : '+' }}</span>
          <span class="what">
            <span
              >{{ s.title }}<span v-if="!s.whole" class="soft"> · {{ labelsOf(s) }}</span>
            </span>
            <span class="soft meaning">{{ s.meaning }}</span>
          </span>
          <span class="value" :class="{ silent: s.value === null }">{{
            s.value === null ? `◌ ${s.why}` : number(s.value, s.unit)
          }}</span>
        </button>
      </li>
    </ul>
    <p v-if="found.length === 0" class="soft">
      No counter matches all of these words. Fewer words find more.
    </p>
  </ElDrawer>
</template>

<style scoped>
.count {
  padding: 8px 0;
  font-size: 12px;
}
ul {
  list-style: none;
}
.row {
  display: flex;
  width: 100%;
  gap: 8px;
  padding: 6px 4px;
  border-bottom: 1px solid var(--line);
}
.row:hover {
  background: var(--paper);
}
.row[aria-pressed='true'] {
  background: var(--plum-soft);
}
.mark {
  width: 12px;
  color: var(--plum);
}
.what {
  flex: 1;
  min-width: 0;
}
.meaning {
  display: block;
  font-size: 12px;
}
.value {
  max-width: 40%;
  text-align: right;
}
</style>
