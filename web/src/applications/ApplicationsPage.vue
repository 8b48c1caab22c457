<script setup lang="ts">
import { computed } from 'vue'
import type { Series } from '@/api/types'
import { useInstances } from '@/instances/useInstances'
import { byLabels, type Labelled } from '@/series/labels'
import { useSeriesThen } from '@/series/useSeries'
import WhenShown from '@/series/WhenShown.vue'
import ValueCell from '@/series/ValueCell.vue'
import { number } from '@/text/format'
import { useInAddress } from '@/window/useInAddress'
import { usePicked } from '@/window/usePicked'
import { useLink } from '@/window/useLink'

/** Which application runs where, and which of its components takes the time: of the picked, else of all. */
const MOST = 40
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
const by = useInAddress('by', 'time')
const RANKINGS = [
  { key: 'time', title: 'Total time' },
  { key: 'mean_time', title: 'Mean' },
  { key: 'calls', title: 'Calls' },
  { key: 'errors', title: 'Failed' },
]

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
    .filter((row) => !component.value || row.labels.component === component.value)
    .sort((a, b) => value(b, by.value) - value(a, by.value)),
)
const total = computed(() =>
  components.value.reduce((sum, row) => sum + Math.max(0, value(row, 'time')), 0),
)
const share = (row: Labelled) =>
  total.value > 0 ? `${number((100 * Math.max(0, value(row, 'time'))) / total.value, '%')}` : '–'
function kept(row: Labelled) {
  const made = row.by.created?.value
  const gone = row.by.destroyed?.value
  return made == null || gone == null ? '–' : number(made - gone, '/s')
}
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
      <WhenShown :when="series.when.value" />
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
      <table v-if="components.length" class="rows">
        <thead>
          <tr>
            <th>Component</th>
            <th>Application</th>
            <th>Instance</th>
            <th
              v-for="ranking in RANKINGS"
              :key="ranking.key"
              :aria-sort="by === ranking.key ? 'descending' : 'none'"
            >
              <button class="link" type="button" @click="by = ranking.key">
                {{ ranking.title }}
              </button>
            </th>
            <th>Under way</th>
            <th>Created less destroyed</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in components.slice(0, MOST)" :key="row.id">
            <th scope="row">
              <button class="link" type="button" @click="component = row.labels.component ?? ''">
                {{ row.labels.component }}
              </button>
            </th>
            <td>{{ row.labels.application }}</td>
            <td>
              <RouterLink class="link" :to="link('/now', { pick: row.instance.id })">{{
                row.instance.name
              }}</RouterLink>
            </td>
            <td>
              <ValueCell :series="row.by.time" /> <span class="soft">{{ share(row) }}</span>
            </td>
            <td><ValueCell :series="row.by.mean_time" /></td>
            <td><ValueCell :series="row.by.calls" /></td>
            <td><ValueCell :series="row.by.errors" /></td>
            <td><ValueCell :series="row.by.active" /></td>
            <td>{{ kept(row) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="components.length > MOST" class="soft">
        the first {{ MOST }} of {{ components.length }}
      </p>
      <table class="rows">
        <thead>
          <tr>
            <th>Application</th>
            <th>Instance</th>
            <th>State</th>
            <th>Web sessions</th>
            <th>Begun</th>
            <th>Expired</th>
            <th>Rejected</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in deployed" :key="row.id">
            <th scope="row">{{ row.labels.application }}</th>
            <td>
              <RouterLink class="link" :to="link('/now', { pick: row.instance.id })">{{
                row.instance.name
              }}</RouterLink>
            </td>
            <td>
              <span v-if="row.by.running?.value === 1">runs</span>
              <span v-else-if="row.by.running?.value === 0" class="critical">◆ does not run</span>
              <span v-else class="silent">◌ {{ row.by.running?.why }}</span>
            </td>
            <td><ValueCell :series="row.web.active" /></td>
            <td><ValueCell :series="row.web.created" /></td>
            <td><ValueCell :series="row.web.expired" /></td>
            <td><ValueCell :series="row.web.rejected" /></td>
          </tr>
        </tbody>
      </table>
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
