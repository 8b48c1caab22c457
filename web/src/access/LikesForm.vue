<script setup lang="ts">
import '@/look/choices'
import { ElCheckbox, ElInput, ElOption, ElSelect } from 'element-plus'
import { ref, watch } from 'vue'
import { useAttempt } from '@/api/useAttempt'
import { FIRST_VIEWS, useLikes } from '@/look/useLikes'
import type { Likes } from '@/api/types'
import { ownZone } from '@/text/format'

/** How one likes it: kept as soon as it is chosen, for every browser. */
const { likes, choose } = useLikes()
const { refused, attempt } = useAttempt()
const set = (change: Partial<Likes>) => attempt(() => choose(change))
const THEMES = [
  ['', 'as the machine is'],
  ['light', 'light'],
  ['dark', 'dark'],
]
const zone = ref(likes.value.zone)
watch(
  () => likes.value.zone,
  (kept) => (zone.value = kept),
)
const zones = Intl.supportedValuesOf('timeZone')
function setZone() {
  const chosen = zone.value.trim()
  if (chosen !== likes.value.zone) void set({ zone: chosen })
}
</script>

<template>
  <div class="form">
    <label
      >Colours<ElSelect
        :model-value="likes.theme"
        :empty-values="[undefined]"
        aria-label="Colours"
        @update:model-value="(theme) => set({ theme })"
      >
        <ElOption v-for="[value, words] in THEMES" :key="value" :value="value!" :label="words!" />
      </ElSelect>
    </label>
    <label
      >What is shown first<ElSelect
        :model-value="likes.firstView"
        aria-label="What is shown first"
        @update:model-value="(firstView) => set({ firstView })"
      >
        <ElOption v-for="[value, words] in FIRST_VIEWS" :key="value" :value :label="words" />
      </ElSelect>
    </label>
    <label
      >Times are told in<ElInput
        v-model="zone"
        list="zones"
        :placeholder="`the browser’s zone (${ownZone})`"
        @change="setZone"
      />
    </label>
  </div>
  <datalist id="zones">
    <option v-for="one in zones" :key="one" :value="one" />
  </datalist>
  <ElCheckbox :model-value="likes.keys" @update:model-value="(keys) => set({ keys: keys === true })"
    >keys act</ElCheckbox
  >
  <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
</template>

<style scoped>
.form {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  max-width: 760px;
}
label {
  flex: 1 1 220px;
  color: var(--ink-soft);
  font-size: 12px;
}
</style>
