<script setup lang="ts">
import '@/look/choices'
import { ElInputNumber, ElRadio, ElRadioGroup } from 'element-plus'
import { computed } from 'vue'
import type { RecipeText } from '@/api/types'
import { depthOf, DEPTHS, isDeeper, pacesOf, withDepth, withPace, type Depth } from './lines'

/** How deep a recipe digs and how often the slow ones are read: lines of its text. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ recipe: RecipeText }>()

const upTo = (depth: Depth) =>
  [...props.recipe.counters, ...props.recipe.left].filter((c) => !isDeeper(c.depth, depth)).length
const depth = computed({
  get: () => depthOf(text.value),
  set: (to) => (text.value = withDepth(text.value, to)),
})
const slow = computed({
  get: () => pacesOf(text.value).slow ?? props.recipe.paces.slow,
  set: (to) => {
    if (to) text.value = withPace(text.value, 'slow', to)
  },
})
</script>

<template>
  <div class="choices">
    <span id="depth-label" class="soft">Read</span>
    <ElRadioGroup v-model="depth" aria-labelledby="depth-label">
      <ElRadio v-for="d in DEPTHS" :key="d.key" :value="d.key" :title="d.meaning"
        >{{ d.label }} <span class="soft">{{ upTo(d.key) }}</span></ElRadio
      >
    </ElRadioGroup>
    <label
      v-if="recipe.paces.slow"
      class="soft"
      title="The fast ones are read as often as each instance says."
      >slow ones every
      <ElInputNumber
        v-model="slow"
        :min="10"
        :max="86400"
        :controls="false"
        aria-label="Seconds between slow readings"
      />
      s</label
    >
  </div>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.choices :deep(.el-radio) {
  margin-right: 16px;
}
.choices :deep(.el-input-number) {
  width: 64px;
}
</style>
