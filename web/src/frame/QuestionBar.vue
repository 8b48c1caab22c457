<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useInstances } from '@/instances/useInstances'
import { useKeys } from '@/keys/useKeys'
import { useLink } from '@/window/useLink'
import { usePicked } from '@/window/usePicked'
import { questions } from './questions'

/** The questions have fixed places and keys; one that cannot be answered stays, soft, with the reason. */
const route = useRoute()
const { picked } = usePicked()
/** The question changes, what is picked and when stay. */
const { link, go } = useLink()
const { instances } = useInstances()
const all = computed(() =>
  questions(instances.value.filter((instance) => picked.value.includes(instance.id))),
)
useKeys(
  Object.fromEntries(
    ['1', '2', '3', '4', '5', '6', '7', '8', '9'].map((key) => [
      key,
      () => {
        const question = all.value.find((q) => q.key === key)
        if (question && question.why === '') go(question.path)
      },
    ]),
  ),
)
</script>

<template>
  <ol class="questions" aria-label="Questions">
    <li v-for="question in all" :key="question.name">
      <span
        v-if="question.why"
        class="question"
        tabindex="0"
        aria-disabled="true"
        :title="question.why"
        :aria-label="`${question.name}: ${question.why}`"
        ><sup>{{ question.key }}</sup
        >{{ question.name }}</span
      >
      <RouterLink
        v-else
        class="question asked"
        :class="{ on: route.path === question.path }"
        :aria-current="route.path === question.path ? 'page' : undefined"
        :to="link(question.path)"
        ><sup>{{ question.key }}</sup
        >{{ question.name }}</RouterLink
      >
    </li>
  </ol>
</template>

<style scoped>
.questions {
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
  margin: 0 0 10px;
  padding: 0;
  border-bottom: 1px solid var(--line);
  list-style: none;
}
.question {
  display: block;
  padding: 6px 2px;
  color: var(--ink-soft);
  cursor: default;
  text-decoration: none;
}
.question.asked {
  color: var(--ink);
  cursor: pointer;
}
.question.on {
  border-bottom: 2px solid var(--plum);
  color: var(--plum);
  font-weight: 600;
}
sup {
  padding-right: 3px;
  color: var(--ink-soft);
  font-size: 10px;
  font-weight: 400;
}
</style>
