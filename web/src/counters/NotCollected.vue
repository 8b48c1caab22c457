<script setup lang="ts">
import { useMe } from '@/access/useMe'
import { ElMessageBox } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api, inWords } from '@/api/client'
import type { RecipeText } from '@/api/types'
import { depthOf } from '@/recipes/lines'
import { leaving, leftOut } from '@/recipes/without'
import { useLink } from '@/window/useLink'

const { mayOfAll } = useMe()

/** What the recipe of the instance could read too, but leaves out; found by the same words, taken in from here. */
const props = defineProps<{ recipe: string; words: string; counts: string; unit: string }>()
const { link } = useLink()
const MOST = 30
const text = ref<RecipeText>()
const failure = ref('')
const done = ref('')

async function load() {
  text.value = await api.recipe(props.recipe).catch(() => undefined)
}
watch(() => props.recipe, load, { immediate: true })

const found = computed(() => {
  const wanted = props.words.toLowerCase().split(/\s+/).filter(Boolean)
  return (text.value?.left ?? []).filter((c) => {
    const all = `${c.title} ${c.key} ${c.unit} ${c.meaning} ${c.questions.join(' ')}`.toLowerCase()
    return (
      wanted.every((word) => all.includes(word)) &&
      (!props.counts || c.group === props.counts) &&
      (!props.unit || (c.unit || 'count') === props.unit)
    )
  })
})

/** One that is left out by its name is taken in by its name; for one that lies deeper the recipe decides. */
const byName = (key: string) => leftOut(text.value?.text ?? '').includes(key)

async function take(key: string, title: string) {
  const before = text.value
  if (!before) return
  failure.value = ''
  try {
    const next = leaving(before.text, key, false)
    const told = await api.changeRecipe(before.key, next, true)
    const added = told.added.map((c) => c.title).join(', ')
    const sure = await ElMessageBox.confirm(
      `Read from then on: ${added}; of ${told.usedBy.join(', ')}, without a restart.`,
      `Read ${title}`,
      { confirmButtonText: 'Read it', cancelButtonText: 'Leave it out' },
    ).catch(() => false)
    if (!sure) return
    await api.changeRecipe(before.key, next, false)
    done.value = `${title} is read from now on.`
    await load()
  } catch (e) {
    failure.value = inWords(e)
  }
}
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-if="done" role="status">{{ done }}</p>
  <section v-if="found.length" class="left" aria-label="Not collected">
    <h3>{{ found.length }} more that are not collected</h3>
    <table class="rows">
      <tbody>
        <tr v-for="counter in found.slice(0, MOST)" :key="counter.key">
          <th scope="row">{{ counter.title }}</th>
          <td class="soft">{{ counter.meaning }}</td>
          <td class="act">
            <button
              v-if="byName(counter.key) && mayOfAll('shape')"
              class="link"
              type="button"
              @click="take(counter.key, counter.title)"
            >
              add to the recipe …
            </button>
            <RouterLink
              v-else-if="!byName(counter.key)"
              class="link"
              :to="link('/recipes', { recipe })"
              >{{ counter.depth }}: the recipe reads
              {{
                depthOf(text?.text ?? '') === 'essential' ? 'the essential only' : 'less deep'
              }}</RouterLink
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="found.length > MOST" class="soft">The first {{ MOST }}; more words find fewer.</p>
  </section>
</template>

<style scoped>
.left {
  padding-top: 16px;
}
h3 {
  padding-bottom: 4px;
  font-size: 14px;
}
.act {
  text-align: right;
  white-space: nowrap;
}
</style>
