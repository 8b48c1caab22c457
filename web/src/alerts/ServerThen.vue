<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { number } from '@/text/format'
import { standing } from '@/window/useWindow'
import { useLink } from '@/window/useLink'
import { firstMinutes, until } from './story'

/** The pools of a server in the first minutes of an alert, in small. */
const props = defineProps<{ alert: Alert; now: number }>()
const COLUMNS = [
  { counter: 'pool.in_use_share', title: 'in use' },
  { counter: 'pool.waiting', title: 'waiting' },
  { counter: 'pool.mean_hold', title: 'hold' },
]
const { link } = useLink()
const { answer, failure } = useAnswer(
  () => ({ id: props.alert.instance, ...firstMinutes(props.alert) }),
  async ({ id, from, to }, signal) => {
    const series = (await api.series(id, signal)).filter(
      (one) => one.labels.pool && COLUMNS.some((column) => column.counter === one.counter),
    )
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
const pools = computed(() => [
  ...new Set((answer.value?.series ?? []).map((one) => one.labels.pool ?? '')),
])
function valueOf(pool: string, counter: string): string {
  const of = answer.value?.series.find((s) => s.labels.pool === pool && s.counter === counter)
  const value = of && answer.value?.mean.get(of.id)
  return of && value !== null && value !== undefined ? number(value, of.unit) : '–'
}
</script>

<template>
  <div v-if="failure || pools.length" class="card">
    <h3>
      Pools in its first minutes
      <RouterLink
        class="link"
        :to="
          link('/pools', {
            pick: alert.instance,
            ...standing(firstMinutes(alert).from, firstMinutes(alert).to),
          })
        "
        >all of it</RouterLink
      >
    </h3>
    <p v-if="failure" class="soft">{{ failure }}</p>
    <table v-else aria-label="Pools in its first minutes">
      <thead>
        <tr>
          <th scope="col" class="soft">pool</th>
          <th v-for="column in COLUMNS" :key="column.counter" scope="col" class="soft n">
            {{ column.title }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="pool in pools" :key="pool">
          <td>{{ pool }}</td>
          <td v-for="column in COLUMNS" :key="column.counter" class="n">
            {{ valueOf(pool, column.counter) }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
