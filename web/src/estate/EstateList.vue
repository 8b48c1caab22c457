<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { ElInput, ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Instance } from '@/api/types'
import { useGoing } from '@/frame/useGoing'
import { isOwn, KINDS } from '@/instances/kinds'
import { whatIsKept } from '@/instances/removed'
import { useInstances } from '@/instances/useInstances'
import { usedOf } from '@/instances/uses'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { isPaused } from '@/shelf/order'
import { isSilent } from '@/shelf/useShelf'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'
import FoundLinks from './FoundLinks.vue'

/** Every instance with where it belongs; several are paused, resumed or removed at once. */
const { instances, loaded, reload, take } = useInstances()
const { link } = useLink()
const { later } = useGoing()
const filter = useInAddress('filter', '', 'replace')
const failure = ref('')
const busy = ref(false)
const chosen = ref(new Set<number>())

const listed = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  return instances.value
    .filter((i) => !isOwn(i))
    .filter((i) => {
      const text = [
        i.name,
        KINDS[i.kind],
        i.site,
        i.group,
        i.machine,
        ...i.tags,
        ...i.uses,
        i.endpoint.host,
      ]
        .join(' ')
        .toLowerCase()
      return words.every((word) => text.includes(word))
    })
    .sort((a, b) => place(a).localeCompare(place(b)) || a.name.localeCompare(b.name))
})
const picked = computed(() => listed.value.filter((i) => chosen.value.has(i.id)))
const allPicked = computed(
  () => listed.value.length > 0 && picked.value.length === listed.value.length,
)

function choose(id: number, on: boolean) {
  const next = new Set(chosen.value)
  if (on) next.add(id)
  else next.delete(id)
  chosen.value = next
}
function chooseAll(on: boolean) {
  chosen.value = new Set(on ? listed.value.map((i) => i.id) : [])
}

async function each(what: (instance: Instance) => Promise<unknown>) {
  busy.value = true
  failure.value = ''
  for (const instance of picked.value) {
    try {
      await what(instance)
    } catch (e) {
      failure.value = `${instance.name}: ${inWords(e)}`
    }
  }
  busy.value = false
}
const pause = (paused: boolean) =>
  each(async (i) => take((await api.pause(i.id, paused)).state as Instance['state']))
async function remove() {
  const names = picked.value.map((i) => i.name)
  const what = names.length === 1 ? names[0] : `${names.length} instances`
  const sure = await ElMessageBox.confirm(whatIsKept(names), `Remove ${what}`, {
    confirmButtonText: `Remove ${what}`,
    cancelButtonText: 'Keep them',
  }).catch(() => false)
  if (!sure) return
  const gone = [...picked.value]
  later(`instances ${gone.map((i) => i.id).join()}`, `${what} will be removed`, async () => {
    for (const one of gone) await api.removeInstance(one.id)
    await reload()
  })
  chosen.value = new Set()
}
const address = ({ endpoint }: Instance) =>
  endpoint.port === 0 ? 'this machine' : `${endpoint.host}:${endpoint.port}`
const place = (i: Instance) => [i.site, i.group].filter(Boolean).join(', ')
const COLUMNS: Column<Instance>[] = [
  { key: 'name', title: 'Instance', by: (i) => i.name },
  { key: 'kind', title: 'Kind', by: (i) => KINDS[i.kind] },
  { key: 'place', title: 'Site, group', by: place },
  { key: 'machine', title: 'Machine', by: (i) => i.machine },
  { key: 'tags', title: 'Tags' },
  { key: 'uses', title: 'Uses' },
  { key: 'address', title: 'Address', by: address },
  { key: 'state', title: 'State', by: (i) => i.state.state },
]
const sort = useInAddress('sort', 'place')
</script>

<template>
  <FoundLinks />
  <div class="bar">
    <ElInput
      v-model="filter"
      class="filter"
      clearable
      placeholder="name, site, group, machine, tag …"
      aria-label="Filter instances"
    />
    <span v-if="picked.length" v-may="'shape'" class="acts">
      <strong>{{ picked.length }} picked:</strong>
      <button class="link" type="button" :disabled="busy" @click="pause(true)">pause</button>
      <button class="link" type="button" :disabled="busy" @click="pause(false)">resume</button>
      <button class="link remove" type="button" :disabled="busy" @click="remove">remove …</button>
    </span>
    <span v-else class="soft"
      >{{ listed.length }} instances; pick some to pause or remove them</span
    >
  </div>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-if="!loaded" class="soft">Fetching the instances …</p>
  <p v-else-if="!listed.length" class="soft">
    {{
      filter
        ? 'No instance matches.'
        : 'Nothing is under watch yet: take many in from a file, or add one on the left.'
    }}
  </p>
  <DataTable
    v-else
    v-model:sort="sort"
    label="Instances"
    :columns="COLUMNS"
    :rows="listed"
    :row-key="(instance) => `${instance.id}`"
    :about="filter"
    :on="(instance) => chosen.has(instance.id)"
  >
    <template #head-name>
      <input
        type="checkbox"
        class="choose"
        aria-label="Pick all"
        :checked="allPicked"
        @change="chooseAll(($event.target as HTMLInputElement).checked)"
      />
    </template>
    <template #name="{ row: instance }">
      <input
        type="checkbox"
        class="choose"
        :aria-label="`Pick ${instance.name}`"
        :checked="chosen.has(instance.id)"
        @change="choose(instance.id, ($event.target as HTMLInputElement).checked)"
      />
      <RouterLink class="link" :to="link('/now', { pick: instance.id })">{{
        instance.name
      }}</RouterLink>
    </template>
    <template #kind="{ row }">{{ KINDS[row.kind] }}</template>
    <template #place="{ row }">{{ place(row) }}</template>
    <template #machine="{ row }">{{ row.machine }}</template>
    <template #tags="{ row }">{{ row.tags.join(' ') }}</template>
    <template #uses="{ row: instance }">
      <span
        v-for="use in usedOf(instance, instances)"
        :key="use.name"
        class="use"
        :class="{ soft: !use.instance }"
        :title="use.instance ? use.through && `through ${use.through}` : 'It is not under watch.'"
        >{{ use.name }}</span
      >
    </template>
    <template #address="{ row }">{{ address(row) }}</template>
    <template #state="{ row: instance }">
      <RouterLink
        :to="link('/endpoints', { point: instance.id })"
        class="link"
        :class="{ silent: isSilent(instance) }"
        >{{ isPaused(instance) ? '‖ ' : isSilent(instance) ? '◌ ' : ''
        }}{{ instance.state.state }}</RouterLink
      >
    </template>
  </DataTable>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 20px;
  padding-bottom: 12px;
}
.filter {
  width: 280px;
}
.acts {
  display: flex;
  gap: 16px;
}
.choose {
  margin-right: 10px;
}
.use:not(:last-child)::after {
  content: ', ';
}
.remove {
  color: var(--raspberry);
}
</style>
