<script setup lang="ts">
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Session } from '@/api/types'
import { momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { useLink } from '@/window/useLink'
import { standing } from '@/window/useWindow'

/** Whether who holds up others here did so about this hour on earlier days, and on how many. */
const props = defineProps<{ instance: number; holder: Session; at: number }>()
const QUARTER = 15 * 60_000
const SHOWN = 5
const now = useClock()
const { link } = useLink()
const { answer, failure } = useAnswer(
  () => ({
    id: props.instance,
    user: props.holder.user,
    program: props.holder.program,
    statement: props.holder.statement,
    // the same hour is the same question
    at: Math.floor(props.at / QUARTER) * QUARTER,
  }),
  ({ id, at, user, program, statement }, signal) =>
    api.earlierHolders(id, { at, user, program, statement }, signal),
)
/** Its end is the moment that is looked at. */
const moment = (at: number) => standing(at - QUARTER, at)
</script>

<template>
  <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
  <p v-else-if="answer?.looked" class="earlier">
    <template v-if="answer.days.length">
      The same kept others waiting about this hour on
      <strong>{{ answer.days.length }} of {{ answer.looked }} days before</strong>:
      <template v-for="(one, i) in answer.days.slice(0, SHOWN)" :key="one.at"
        ><template v-if="i">, </template
        ><RouterLink class="link" :to="link('/locks', moment(one.at))">{{
          momentInWords(one.at, now)
        }}</RouterLink>
        ({{ one.waiting }})</template
      ><template v-if="answer.days.length > SHOWN"> …</template>
    </template>
    <template v-else
      >On none of {{ answer.looked }} days before did it keep others waiting about this
      hour.</template
    >
  </p>
</template>

<style scoped>
.earlier {
  padding: 4px 0;
}
</style>
