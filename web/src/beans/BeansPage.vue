<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, ref, toRaw } from 'vue'
import type { BeanNumber } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import { useInAddress } from '@/window/useInAddress'
import { usePicked } from '@/window/usePicked'
import AttributeTable from './AttributeTable.vue'
import CounterForm from './CounterForm.vue'
import { findBeans, partsOf, titleOf } from './names'
import { useBeans } from './useBeans'

/** The managed beans of a JVM: look around, see values live, make a counter of a number. */
const MOST = 200
const { picked } = usePicked()
const { instances } = useInstances()
const instance = computed(() => instances.value.find((i) => i.id === picked.value[0]))
const name = useInAddress('bean')
const words = ref('')
const { beans, unasked, attributes, failure, loading, reload, again } = useBeans(
  computed(() => instance.value?.id),
  name,
)
const making = ref<BeanNumber & { type: string; description: string }>()

const found = computed(() => findBeans(toRaw(beans.value) ?? [], words.value))
const domains = computed(() => {
  const by = new Map<string, typeof found.value>()
  for (const one of found.value.slice(0, MOST)) {
    const { domain } = partsOf(one.bean.name)
    by.set(domain, [...(by.get(domain) ?? []), one])
  }
  return [...by]
})
function look(bean: string) {
  making.value = undefined
  name.value = bean
}
</script>

<template>
  <section aria-label="Managed beans">
    <p v-if="!picked.length" class="soft empty">Pick an instance on the left.</p>
    <template v-else>
      <p v-if="failure" class="warning" role="alert">
        ◣ {{ failure }} <button class="link" type="button" @click="again">try again</button>
      </p>
      <p v-if="loading" class="soft empty">Asking it for its managed beans …</p>
      <div v-else-if="beans" class="both">
        <div class="list">
          <ElInput
            v-model="words"
            clearable
            placeholder="a word of a name or of an attribute"
            aria-label="Search managed beans"
          />
          <p class="soft count" role="status">
            {{ found.length }} of {{ beans.length }} beans<template v-if="found.length > MOST"
              >; the first {{ MOST }} are listed</template
            ><template v-if="unasked"
              >; it is slow: the attributes of {{ unasked }} are not searched</template
            >
          </p>
          <div class="scroll">
            <template v-for="[domain, members] in domains" :key="domain">
              <h2 class="soft">{{ domain }}</h2>
              <button
                v-for="one in members"
                :key="one.bean.name"
                class="plain row"
                type="button"
                :aria-current="one.bean.name === name"
                :title="one.bean.name"
                @click="look(one.bean.name)"
              >
                {{ titleOf(one.bean.name)
                }}<span v-if="one.hits.length" class="soft"> {{ one.hits.join(', ') }}</span>
              </button>
            </template>
            <p v-if="!found.length" class="soft">No bean has all of these words.</p>
          </div>
        </div>
        <div class="one">
          <p v-if="!name" class="soft">
            Pick a managed bean: its attributes stand here with their values, asked for anew every
            five seconds. Any number of it can become a counter.
          </p>
          <template v-else>
            <h2>{{ name }}</h2>
            <p v-if="!attributes && !failure" class="soft">Asking for its values …</p>
            <AttributeTable
              v-if="attributes"
              :attributes="attributes"
              @make="
                (number, of) => (making = { ...number, type: of.type, description: of.description })
              "
            />
          </template>
        </div>
      </div>
    </template>
    <CounterForm
      v-if="making && instance"
      :instance="instance"
      :bean="name"
      :number="making"
      @close="making = undefined"
      @made="reload"
    />
  </section>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
  gap: 20px;
}
.count {
  padding: 6px 0;
  font-size: 12px;
}
.scroll {
  overflow: auto;
  max-height: calc(100vh - 290px);
}
h2 {
  padding: 8px 0 2px;
  font-size: 12px;
  font-weight: 400;
}
h2 {
  padding-bottom: 6px;
  font-size: 14px;
  overflow-wrap: anywhere;
}
.row {
  display: block;
  width: 100%;
  padding: 3px 8px;
  border-left: 4px solid transparent;
  overflow-wrap: anywhere;
}
.row[aria-current='true'] {
  border-left-color: var(--plum);
  background: var(--plum-soft);
}
.row span {
  display: block;
  font-size: 12px;
}
.empty {
  padding: 12px 0;
}
</style>
