<script setup lang="ts">
import LastChanges from '@/access/LastChanges.vue'
import { vMay } from '@/access/vMay'
import { ElButton, ElInput, ElMessageBox } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api, inWords } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { RecipeChange } from '@/api/types'
import { useGoing } from '@/frame/useGoing'
import { KINDS } from '@/instances/kinds'
import { useInAddress } from '@/window/useInAddress'
import { depthOf, isDeeper } from './lines'
import RecipeChoices from './RecipeChoices.vue'
import { useUnsaved } from '@/unsaved/useUnsaved'
import { leaving, leftOut } from './without'

/** What is read of each kind and make: drop and take in counters, or write a recipe of one's own. */
const key = useInAddress('recipe', 'postgresql')
const text = ref('')
const change = ref<RecipeChange>()
const refused = ref('')
const done = ref('')
const busy = ref(false)
const filter = ref('')
const { keep, later } = useGoing()

async function attempt<T>(what: () => Promise<T>): Promise<T | undefined> {
  busy.value = true
  refused.value = ''
  try {
    return await what()
  } catch (e) {
    refused.value = inWords(e)
    return undefined
  } finally {
    busy.value = false
  }
}
/** The text of one is never shown, nor saved, as another's. */
const { answer: current, failure: unknown, asking, again } = useAnswer(() => key.value, api.recipe)
const {
  answer: offered,
  failure: none,
  again: list,
} = useAnswer(
  () => 'recipes',
  (_, signal) => api.recipes(signal),
)
const recipes = computed(() => offered.value ?? { recipes: [], faults: [] })
const failure = computed(() => refused.value || unknown.value || none.value)
const load = () => Promise.all([list(), again()])
watch(current, (one) => {
  text.value = one?.text ?? ''
  change.value = undefined
})
watch(key, () => (done.value = ''))

const unsaved = computed(() => current.value !== undefined && text.value !== current.value.text)
useUnsaved(
  () => unsaved.value,
  'the recipe',
  (to) => to.path !== '/recipes' || `${to.query.recipe ?? 'postgresql'}` !== key.value,
)
watch(text, () => (change.value = undefined))
const leaves = computed(() => new Set(leftOut(text.value)))
const counters = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  return [...(current.value?.counters ?? []), ...(current.value?.left ?? [])]
    .filter((c) =>
      words.every((w) => `${c.title} ${c.key} ${c.group} ${c.unit}`.toLowerCase().includes(w)),
    )
    .sort((a, b) => a.group.localeCompare(b.group) || a.title.localeCompare(b.title))
})

const deeper = (of: string) => isDeeper(of, depthOf(text.value))

async function run(dry: boolean) {
  const told = await attempt(() => api.changeRecipe(key.value, text.value, dry))
  if (told?.saved) {
    keep(`recipe ${key.value}`)
    done.value = `Saved. ${told.usedBy.length ? `${told.usedBy.length} instances are read by it from now on; what was read so far is kept.` : 'No instance is read by it yet.'}`
    await load()
  }
  change.value = told
}
async function back() {
  const sure = await ElMessageBox.confirm(
    current.value?.shipped
      ? 'The recipe that is shipped is in force again; your file is gone.'
      : 'Your file is gone.',
    `Delete ${key.value}`,
    { confirmButtonText: 'Delete it', cancelButtonText: 'Keep it' },
  ).catch(() => false)
  if (!sure) return
  const gone = key.value
  const shipped = current.value?.shipped
  later(`recipe ${gone}`, `The file of ${gone} is deleted`, async () => {
    await api.removeRecipe(gone)
    if (!shipped && key.value === gone) key.value = 'postgresql'
    else await load()
  })
}
async function take(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const name = file.name.replace(/\.ya?ml$/, '')
  const content = await file.text()
  const told = await attempt(() => api.changeRecipe(name, content, true))
  change.value = told
  if (told && !told.faults.length) {
    await attempt(() => api.changeRecipe(name, content, false))
    key.value = name
    await load()
  } else await load()
  change.value = told
}
const file = computed(() => `data:application/yaml;charset=utf-8,${encodeURIComponent(text.value)}`)
const titles = (named: { title: string }[]) => named.map((n) => n.title).join(', ')
</script>

<template>
  <section class="recipes" aria-label="Recipes">
    <nav aria-label="All recipes">
      <button
        v-for="recipe in recipes.recipes"
        :key="recipe.key"
        class="plain row"
        type="button"
        :aria-current="recipe.key === key"
        @click="key = recipe.key"
      >
        {{ recipe.name }}
        <span class="soft">{{ KINDS[recipe.kind] }}, {{ recipe.counters }} counters</span>
      </button>
      <label v-may="'shape'" class="soft take"
        >Import a file
        <input type="file" accept=".yaml,.yml" aria-label="Recipe file" @change="take"
      /></label>
    </nav>
    <div class="one">
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <p v-for="fault in recipes.faults" :key="fault" class="warning">◣ {{ fault }}</p>
      <p v-if="!current && asking" class="soft">Fetching the recipe …</p>
      <template v-if="current">
        <p>
          <strong>{{ current.name }}</strong>
          {{ current.own ? 'is your own file' : 'is shipped; saving makes it your own' }}.
          {{
            current.usedBy.length
              ? `Read by it: ${current.usedBy.slice(0, 6).join(', ')}${current.usedBy.length > 6 ? ` and ${current.usedBy.length - 6} more` : ''}.`
              : 'No instance is read by it.'
          }}
          <a class="link" :href="file" :download="`${current.key}.yaml`">download</a>
          <button v-if="current.own" v-may="'shape'" class="link" type="button" @click="back">
            {{ current.shipped ? 'back to the shipped one …' : 'delete it …' }}
          </button>
        </p>
        <LastChanges what="recipe" :of="current.key" :follows="current.text" />
        <RecipeChoices v-model="text" :recipe="current" />
        <div v-may="'shape'" class="bar">
          <ElButton :disabled="!unsaved" :loading="busy" @click="run(true)"
            >What would it do?</ElButton
          >
          <ElButton type="primary" :disabled="!unsaved" :loading="busy" @click="run(false)"
            >Save</ElButton
          >
          <span v-if="unsaved" class="warning"
            >◣ unsaved: nothing of this is collected yet
            <button class="link" type="button" @click="text = current.text">undo it</button></span
          >
          <span v-else-if="done" role="status">{{ done }}</span>
        </div>
        <div v-if="change && !change.saved" class="change" role="status">
          <p v-for="fault in change.faults" :key="fault" class="critical">◆ {{ fault }}</p>
          <template v-if="!change.faults.length">
            <p v-if="change.dropped.length">
              <strong>Not read any more:</strong> {{ titles(change.dropped) }}. What was read is
              kept; imported again, each goes on where it stopped.
            </p>
            <p v-if="change.added.length">
              <strong>Read from now on:</strong> {{ titles(change.added) }}.
            </p>
            <p v-if="change.changed.length">
              <strong>Read or defined otherwise:</strong> {{ titles(change.changed) }}.
            </p>
            <p v-if="!change.dropped.length && !change.added.length && !change.changed.length">
              No counter is read otherwise.
            </p>
            <p class="soft">
              {{
                change.usedBy.length
                  ? `Of ${change.usedBy.join(', ')}, without a restart.`
                  : 'No instance is read by it.'
              }}
            </p>
          </template>
        </div>
        <div class="both">
          <div>
            <ElInput
              v-model="filter"
              clearable
              placeholder="a word, a group, a unit"
              aria-label="Filter counters"
            />
            <ul class="counters" aria-label="Counters of the recipe">
              <li v-for="counter in counters" :key="counter.key">
                <label :title="counter.key"
                  ><input
                    type="checkbox"
                    :checked="!leaves.has(counter.key) && !deeper(counter.depth)"
                    :disabled="deeper(counter.depth)"
                    @change="
                      text = leaving(
                        text,
                        counter.key,
                        !($event.target as HTMLInputElement).checked,
                      )
                    "
                  />
                  {{ counter.title }}
                  <span class="soft"
                    >{{ counter.depth === 'useful' ? '' : `${counter.depth}, `
                    }}{{ counter.group.replace(/_/g, ' ')
                    }}{{ counter.pace ? `, ${counter.pace}` : '' }}</span
                  ></label
                >
              </li>
            </ul>
          </div>
          <ElInput
            v-model="text"
            type="textarea"
            :rows="20"
            spellcheck="false"
            aria-label="Text of the recipe"
          />
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
.recipes {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  gap: 20px;
}
.row {
  display: block;
  width: 100%;
  padding: 6px 8px;
  border-left: 4px solid transparent;
}
.row[aria-current='true'] {
  border-left-color: var(--plum);
  background: var(--plum-soft);
}
.row span {
  display: block;
  font-size: 12px;
}
.take {
  display: block;
  padding: 16px 8px;
  font-size: 12px;
}
.take input {
  display: block;
  max-width: 200px;
}
.one {
  display: grid;
  align-content: start;
  gap: 10px;
}
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
}
.change {
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
.both {
  display: grid;
  grid-template-columns: 340px minmax(0, 1fr);
  gap: 16px;
}
.counters {
  overflow: auto;
  max-height: 400px;
  padding: 8px 0;
  list-style: none;
}
.counters label {
  display: block;
  padding: 2px 0;
}
.both :deep(textarea) {
  font: 12.5px/1.5 var(--code);
}
.link {
  margin-left: 8px;
}
</style>
