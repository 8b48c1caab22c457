<script setup lang="ts">
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useInstances } from '@/instances/useInstances'
import { isSilent } from '@/shelf/useShelf'
import LastChecked from '@/instances/LastChecked.vue'
import { seconds, since, span } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useInAddress } from '@/window/useInAddress'
import { useLink } from '@/window/useLink'

/** All end points in one list: up or down since when and why, and what reading them takes. */
const { instances } = useInstances()
const now = useClock()
const { link } = useLink()
/** What an instance tells live is newer; the rest is fetched with it, at most every 5 s. */
const { answer: points, failure } = useAnswer(
  () => 'all',
  (_, signal) => api.endPoints(signal),
  { follows: () => Math.floor(now.value / 5000) },
)
const picked = useInAddress('point')

const RANK: Record<string, number> = {
  silent: 0,
  unreachable: 0,
  failing: 0,
  starting: 1,
  paused: 2,
  reading: 3,
}
const rows = computed(() =>
  (points.value ?? [])
    .flatMap((point) => {
      const instance = instances.value.find((i) => i.id === point.instance)
      return instance ? [{ point, instance, state: instance.state }] : []
    })
    .sort(
      (a, b) =>
        (RANK[a.state.state] ?? 0) - (RANK[b.state.state] ?? 0) ||
        a.instance.name.localeCompare(b.instance.name),
    ),
)
const asked = computed(() => rows.value.filter((row) => row.state.state !== 'paused').length)
/** One that was not read yet has not answered. */
const answer = computed(() => rows.value.filter((row) => row.state.state === 'reading').length)
const SIGN: Record<string, string> = {
  silent: '◌',
  unreachable: '◌',
  failing: '◌',
  paused: '‖',
  starting: '…',
  reading: '',
}
const WORDS: Record<string, string> = {
  silent: 'down',
  unreachable: 'down',
  failing: 'not read',
  reading: 'up',
}
const time = (value: number | null) => (value === null ? '' : seconds(value))
</script>

<template>
  <section aria-label="End points">
    <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
    <p v-if="!points && !failure" class="soft empty">Fetching the end points …</p>
    <p v-else-if="points && !rows.length" class="soft empty">
      Nothing is under watch yet. Add an instance on the left, or many from a file on the
      <RouterLink class="link" :to="link('/estate')">estate page</RouterLink>.
    </p>
    <template v-else-if="rows.length">
      <p class="soft sum">
        {{ answer }} of {{ asked }} answer. A reading's cost is the time it takes from the first
        question to the last answer.
      </p>
      <table class="rows">
        <thead>
          <tr>
            <th>Instance</th>
            <th>Address</th>
            <th>State</th>
            <th>Last reading</th>
            <th class="n">Round trip</th>
            <th class="n">Cost of a reading</th>
            <th class="n">Late by</th>
            <th class="n">Every</th>
          </tr>
        </thead>
        <tbody v-for="{ point, instance, state } in rows" :key="instance.id">
          <tr :class="{ on: picked === `${instance.id}` }">
            <th scope="row">
              <button
                class="link"
                type="button"
                :aria-expanded="picked === `${instance.id}`"
                @click="picked = picked === `${instance.id}` ? '' : `${instance.id}`"
              >
                {{ instance.name }}
              </button>
            </th>
            <td class="address" :title="point.address">{{ point.address }}</td>
            <td>
              <span :class="{ silent: isSilent(instance) }"
                >{{ SIGN[state.state] }} {{ WORDS[state.state] ?? state.state }}
                <template v-if="isSilent(instance)">({{ state.reason }})</template></span
              >{{ ' ' }}<span class="soft">{{ since(state.since, now) }}</span>
              <span v-if="state.restart" class="warning" :title="`waiting: ${state.restart}`">
                ↻ restart due</span
              >
            </td>
            <td class="soft">{{ state.lastAt ? `${span(now - state.lastAt)} ago` : 'never' }}</td>
            <td class="n">{{ time(point.roundTrip) }}</td>
            <td class="n">{{ time(point.took) }}</td>
            <td class="n">{{ time(point.late) }}</td>
            <td class="n">{{ instance.interval }} s</td>
          </tr>
          <tr v-if="picked === `${instance.id}`">
            <td colspan="8" class="more">
              <p v-if="isSilent(instance)">{{ state.words }}</p>
              <p v-if="state.restart">
                Changed there, but waiting for a restart: {{ state.restart }}.
              </p>
              <LastChecked :id="instance.id" :since="state.since" />
              <p>
                <RouterLink class="link" :to="link('/now', { pick: instance.id })"
                  >look at it now</RouterLink
                >
              </p>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.sum,
.empty {
  padding: 4px 0 12px;
}
.n {
  text-align: right;
}
.address {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.more {
  padding: 8px 12px 16px;
  white-space: normal;
}
.more p {
  padding: 4px 0;
}
</style>
