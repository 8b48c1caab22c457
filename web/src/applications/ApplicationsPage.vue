<script setup lang="ts">
import { computed } from 'vue'
import type { Series } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import type { Column } from '@/list/columns'
import DataTable from '@/list/DataTable.vue'
import { byLabels, type Labelled } from '@/series/labels'
import { useSeriesThen } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import ValueCell from '@/series/ValueCell.vue'
import { number } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { usePicked } from '@/window/usePicked'
import { useLink } from '@/window/useLink'

/** Which application runs where, and which of its components takes the time: of the picked, else of all. */
const { picked } = usePicked()
const { instances } = useInstances()
const { link } = useLink()
const of = computed(() => {
  const servers = instances.value.filter((i) => i.kind === 'appserver')
  return picked.value.length ? servers.filter((i) => picked.value.includes(i.id)) : servers
})
// told as a text, so that they are fetched anew only when they are others
const ids = computed(() => of.value.map((i) => i.id).join())
const series = useSeriesThen(computed(() => ids.value.split(',').filter(Boolean).map(Number)))

const application = useInAddress('application')
const component = useInAddress('component')
const sort = useInAddress('by', 'time')

const rows = (prefix: string) => of.value.flatMap((i) => byLabels(i, series.of(i.id), prefix))
const deployed = computed(() => {
  const web = new Map(rows('web.').map((row) => [row.id, row]))
  return rows('application.')
    .map((row) => ({ ...row, web: web.get(row.id)?.by ?? {} }))
    .filter((row) => !application.value || row.labels.application === application.value)
    .sort(
      (a, b) =>
        Number(a.by.running?.value === 1) - Number(b.by.running?.value === 1) ||
        (a.labels.application ?? '').localeCompare(b.labels.application ?? '') ||
        a.instance.name.localeCompare(b.instance.name),
    )
})
const matrix = computed(() => {
  const names = new Map<string, { up: number; all: number; where: string[] }>()
  for (const row of rows('application.')) {
    const name = row.labels.application ?? ''
    const known = names.get(name) ?? { up: 0, all: 0, where: [] }
    known.all++
    if (row.by.running?.value === 1) known.up++
    else known.where.push(row.instance.name)
    names.set(name, known)
  }
  return [...names].map(([name, counts]) => ({ name, ...counts }))
})
const value = (row: Labelled, key: string) => row.by[key]?.value ?? -1
const components = computed(() =>
  rows('component.')
    .filter((row) => !application.value || row.labels.application === application.value)
    .filter((row) => !component.value || row.labels.component === component.value),
)
const total = computed(() =>
  components.value.reduce((sum, row) => sum + Math.max(0, value(row, 'time')), 0),
)
const share = (row: Labelled) =>
  total.value > 0 ? `${number((100 * Math.max(0, value(row, 'time'))) / total.value, '%')}` : '–'
function keptOf(row: Labelled) {
  const made = row.by.created?.value
  const gone = row.by.destroyed?.value
  return made == null || gone == null ? null : made - gone
}
const kept = (row: Labelled) => {
  const left = keptOf(row)
  return left === null ? '–' : number(left, '/s')
}
const figure = (key: string, title: string): Column<Labelled> => ({
  key,
  title,
  by: (row) => row.by[key]?.value,
  first: 'descending',
})
const COMPONENTS: Column<Labelled>[] = [
  { key: 'component', title: 'Component', by: (row) => row.labels.component },
  { key: 'application', title: 'Application', by: (row) => row.labels.application },
  { key: 'instance', title: 'Instance', by: (row) => row.instance.name },
  figure('time', 'Total time'),
  figure('mean_time', 'Mean'),
  figure('calls', 'Calls'),
  figure('errors', 'Failed'),
  { ...figure('kept', 'Created less destroyed'), by: keptOf },
]
type Deployed = (typeof deployed.value)[number]
const ofWeb = (key: string, title: string): Column<Deployed> => ({
  key,
  title,
  by: (row) => row.web[key]?.value,
  first: 'descending',
})
const DEPLOYED: Column<Deployed>[] = [
  { key: 'application', title: 'Application', by: (row) => row.labels.application },
  { key: 'instance', title: 'Instance', by: (row) => row.instance.name },
  { key: 'state', title: 'State', by: (row) => row.by.running?.value ?? -1 },
  ofWeb('active', 'Web sessions'),
  ofWeb('created', 'Begun'),
  ofWeb('expired', 'Expired'),
  ofWeb('rejected', 'Rejected'),
]
const transactions = computed(() =>
  of.value.flatMap((instance) => {
    const find = (key: string): Series | undefined =>
      series.of(instance.id).find((s) => s.counter === `transactions.${key}`)
    return find('committed') ? [{ instance, find }] : []
  }),
)
</script>

<template>
  <section aria-label="Applications">
    <p v-if="series.failure.value" class="warning" role="alert">◣ {{ series.failure.value }}</p>
    <p v-else-if="series.loading.value" class="soft empty">Fetching the counters …</p>
    <p v-else-if="!deployed.length && !components.length" class="soft empty">
      No deployed application is told here. Pick an application server on the left, or nothing for
      all of them.
    </p>
    <template v-else>
      <WhenShown :when="series.when.value" figures />
      <p class="apps">
        <button class="link" type="button" :aria-pressed="!application" @click="application = ''">
          all applications
        </button>
        <button
          v-for="app in matrix"
          :key="app.name"
          class="link"
          type="button"
          :aria-pressed="application === app.name"
          :title="app.where.length ? `not running on ${app.where.join(', ')}` : 'runs everywhere'"
          @click="application = application === app.name ? '' : app.name"
        >
          {{ app.name }}
          <span :class="app.up < app.all ? 'critical' : 'soft'"
            >{{ app.up < app.all ? '◆ ' : '' }}{{ app.up }} of {{ app.all }}</span
          >
        </button>
        <button v-if="component" class="link" type="button" @click="component = ''">
          only {{ component }}: show all
        </button>
      </p>
      <DataTable
        v-if="components.length"
        v-model:sort="sort"
        label="Components"
        :columns="COMPONENTS"
        :rows="components"
        :row-key="(row) => row.id"
        :about="[ids, application, component]"
      >
        <template #component="{ row }">
          <button class="link" type="button" @click="component = row.labels.component ?? ''">
            {{ row.labels.component }}
          </button>
        </template>
        <template #application="{ row }">{{ row.labels.application }}</template>
        <template #instance="{ row }">
          <RouterLink class="link" :to="link('/now', { pick: row.instance.id })">{{
            row.instance.name
          }}</RouterLink>
        </template>
        <template #time="{ row }">
          <ValueCell :series="row.by.time" /> <span class="soft">{{ share(row) }}</span>
        </template>
        <template #mean_time="{ row }"><ValueCell :series="row.by.mean_time" /></template>
        <template #calls="{ row }">
          <ValueCell :series="row.by.calls" />
          <span v-if="row.by.active?.value" class="soft"
            >, {{ row.by.active.value }} under way</span
          >
        </template>
        <template #errors="{ row }"><ValueCell :series="row.by.errors" /></template>
        <template #kept="{ row }">{{ kept(row) }}</template>
      </DataTable>
      <DataTable
        label="Deployed applications"
        :columns="DEPLOYED"
        :rows="deployed"
        :row-key="(row) => row.id"
        :about="[ids, application]"
      >
        <template #application="{ row }">{{ row.labels.application }}</template>
        <template #instance="{ row }">
          <RouterLink class="link" :to="link('/now', { pick: row.instance.id })">{{
            row.instance.name
          }}</RouterLink>
        </template>
        <template #state="{ row }">
          <span v-if="row.by.running?.value === 1">runs</span>
          <span v-else-if="row.by.running?.value === 0" class="critical">◆ does not run</span>
          <span v-else class="silent">◌ {{ row.by.running?.why }}</span>
        </template>
        <template #active="{ row }"><ValueCell :series="row.web.active" /></template>
        <template #created="{ row }"><ValueCell :series="row.web.created" /></template>
        <template #expired="{ row }"><ValueCell :series="row.web.expired" /></template>
        <template #rejected="{ row }"><ValueCell :series="row.web.rejected" /></template>
      </DataTable>
      <table v-if="transactions.length" class="rows">
        <thead>
          <tr>
            <th>Transactions of</th>
            <th>Committed</th>
            <th>Rolled back</th>
            <th>Timed out</th>
            <th>Open</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in transactions" :key="row.instance.id">
            <th scope="row">{{ row.instance.name }}</th>
            <td><ValueCell :series="row.find('committed')" /></td>
            <td><ValueCell :series="row.find('rolled_back')" /></td>
            <td><ValueCell :series="row.find('timed_out')" /></td>
            <td><ValueCell :series="row.find('active')" /></td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.empty {
  padding: 24px 0;
}
.apps {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  padding-bottom: 8px;
}
.apps [aria-pressed='true'] {
  font-weight: 600;
}
</style>
