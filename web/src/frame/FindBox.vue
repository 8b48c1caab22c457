<script setup lang="ts">
import { ElAutocomplete } from 'element-plus'
import { onMounted, ref } from 'vue'
import { useInstances } from '@/instances/useInstances'
import { useKeys } from '@/keys/useKeys'
import { factOf } from '@/shelf/useShelf'
import { usePicked } from '@/window/usePicked'

/** Finds an instance by any part of its name, group, site, machine or tags. */
const { instances } = useInstances()
const { pick } = usePicked()
const words = ref('')
const box = ref<{ focus: () => void; blur: () => void }>()

type Found = { value: string; id: number; about: string }

function find(query: string, give: (found: Found[]) => void) {
  const wanted = query.toLowerCase().split(/\s+/).filter(Boolean)
  give(
    instances.value
      .filter((i) => {
        const text = [i.name, i.group, i.site, i.machine, i.kind, ...i.tags].join(' ').toLowerCase()
        return wanted.every((word) => text.includes(word))
      })
      .map((i) => ({ value: i.name, id: i.id, about: `${i.site} · ${factOf(i)}` })),
  )
}

function go(found: Record<string, unknown>) {
  words.value = ''
  pick([(found as Found).id])
  box.value?.blur()
}

// it names no option while none is shown; the library says there is one
onMounted(() => {
  document.querySelector('.find-box input')?.removeAttribute('aria-activedescendant')
})
useKeys({ '/': () => box.value?.focus() })
</script>

<template>
  <ElAutocomplete
    ref="box"
    v-model="words"
    class="find-box"
    :fetch-suggestions="find"
    :debounce="0"
    highlight-first-item
    placeholder="find an instance"
    aria-label="Find an instance"
    @select="go"
  >
    <template #prefix><span class="key">/</span></template>
    <template #default="{ item }">
      {{ item.value }} <span class="soft">{{ item.about }}</span>
    </template>
  </ElAutocomplete>
</template>

<style>
.find-box.el-autocomplete {
  flex: 0 4 300px;
  min-width: 130px;
}
</style>
