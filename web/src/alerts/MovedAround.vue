<script setup lang="ts">
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { labelsOf } from '@/series/labels'
import { departure } from '@/series/told'
import { span } from '@/text/format'
import { standing } from '@/window/useWindow'
import { useLink } from '@/window/useLink'
import { until } from './story'

/** What else left its normal about when an alert began, the first of them on top. */
const props = defineProps<{ alert: Alert; now: number }>()
const ABOUT = 15 * 60_000
const MOST = 5
const { link } = useLink()
const { answer, failure } = useAnswer(
  () => props.alert.since,
  (since, signal) =>
    api.moved(
      { of: '', order: 'first', from: since - ABOUT, to: since + ABOUT, most: MOST },
      signal,
    ),
  { follows: () => until(props.alert.since + ABOUT, props.now) },
)
const after = (at: number) =>
  at < props.alert.since
    ? `${span(props.alert.since - at)} before`
    : `+ ${span(at - props.alert.since)}`
</script>

<template>
  <div class="card">
    <h3>
      What else moved
      <RouterLink
        class="link"
        :to="link('/moved', standing(alert.since - ABOUT, alert.since + ABOUT))"
        >all of it</RouterLink
      >
    </h3>
    <p v-if="failure" class="soft">{{ failure }}</p>
    <p v-else-if="!answer" class="soft">Looking …</p>
    <p v-else-if="!answer.rows.length" class="soft">Nothing left its normal about then.</p>
    <table v-else aria-label="What else moved">
      <tbody>
        <tr v-for="row in answer.rows" :key="row.series">
          <td class="soft">{{ after(row.since) }}</td>
          <td :title="labelsOf(row)">
            <span class="what">
              <RouterLink
                class="link"
                :to="
                  link('/now', {
                    pick: row.instance,
                    ...standing(alert.since - ABOUT, alert.since + ABOUT),
                  })
                "
                >{{ row.instanceName }}</RouterLink
              >
              {{ row.title.toLowerCase() }} {{ labelsOf(row) }}</span
            >
          </td>
          <td class="n">{{ departure(row.distance) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
/* a statement is long */
.what {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
}
td:first-child {
  white-space: nowrap;
}
</style>
