<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { number } from '@/text/format'
import { standing } from '@/window/useWindow'
import { useLink } from '@/window/useLink'
import { firstMinutes, until } from './story'

/**
 * The pools of a server in the first minutes of an alert, in small; or of the servers that use an
 * engine, those first that had somebody wait.
 */
const props = defineProps<{ alert: Alert; of: { id: number; name: string }[]; now: number }>()
const MOST = 4
const COLUMNS = [
  { counter: 'pool.in_use_share', title: 'in use' },
  { counter: 'pool.waiting', title: 'waiting' },
  { counter: 'pool.mean_hold', title: 'hold' },
]
const { link } = useLink()
const { answer, failure } = useAnswer(
  () => ({ ids: props.of.map((one) => one.id), ...firstMinutes(props.alert) }),
  async ({ ids, from, to }, signal) => {
    const all = await Promise.all(ids.map((id) => api.series(id, signal)))
    const series = all
      .flatMap((some, i) => some.map((one) => ({ ...one, instance: ids[i] })))
      .filter((one) => one.labels.pool && COLUMNS.some((column) => column.counter === one.counter))
    const figures = await api.figures(
      series.map((one) => one.id),
      from,
      to,
      signal,
    )
    return { series, mean: new Map(figures.map((one) => [one.series, one.mean])) }
  },
  { follows: () => until(firstMinutes(props.alert).to, props.now) },
)
interface Pool {
  instance: number
  server: string
  name: string
}
const seriesOf = (pool: Pool, counter: string) =>
  answer.value?.series.find(
    (s) => s.instance === pool.instance && s.labels.pool === pool.name && s.counter === counter,
  )
function meanOf(pool: Pool, counter: string): number | null {
  const of = seriesOf(pool, counter)
  return (of && answer.value?.mean.get(of.id)) ?? null
}
const isShort = (pool: Pool) => (meanOf(pool, 'pool.waiting') ?? 0) > 0
const ofOthers = computed(() => props.of.some((one) => one.id !== props.alert.instance))
const pools = computed<Pool[]>(() => {
  const all = props.of.flatMap(({ id, name: server }) =>
    [
      ...new Set(
        (answer.value?.series ?? [])
          .filter((one) => one.instance === id)
          .map((one) => one.labels.pool ?? ''),
      ),
    ].map((name) => ({ instance: id, server, name })),
  )
  return ofOthers.value
    ? all
        .filter(isShort)
        .sort((a, b) => (meanOf(b, 'pool.waiting') ?? 0) - (meanOf(a, 'pool.waiting') ?? 0))
        .slice(0, MOST)
    : all
})
function valueOf(pool: Pool, counter: string): string {
  const value = meanOf(pool, counter)
  return value === null ? '–' : number(value, seriesOf(pool, counter)?.unit ?? '')
}
const title = computed(() =>
  ofOthers.value ? 'Pools of who uses it, in its first minutes' : 'Pools in its first minutes',
)
const there = (instance: number) => {
  const { from, to } = firstMinutes(props.alert)
  return link('/pools', { pick: instance, ...standing(from, to) })
}
</script>

<template>
  <div v-if="failure || pools.length" class="card">
    <h3>
      {{ title }}
      <RouterLink v-if="pools[0] && !ofOthers" class="link" :to="there(alert.instance)"
        >all of it</RouterLink
      >
    </h3>
    <p v-if="failure" class="soft">{{ failure }}</p>
    <table v-else :aria-label="title">
      <thead>
        <tr>
          <th scope="col" class="soft">pool</th>
          <th v-for="column in COLUMNS" :key="column.counter" scope="col" class="soft n">
            {{ column.title }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="pool in pools" :key="`${pool.instance} ${pool.name}`">
          <td>
            <RouterLink v-if="ofOthers" class="link" :to="there(pool.instance)"
              >{{ pool.server }} · {{ pool.name }}</RouterLink
            ><template v-else>{{ pool.name }}</template>
          </td>
          <td v-for="column in COLUMNS" :key="column.counter" class="n">
            {{ valueOf(pool, column.counter) }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
