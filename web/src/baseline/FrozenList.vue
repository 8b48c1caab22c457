<script setup lang="ts">
import { vMay } from '@/access/vMay'
import { api } from '@/api/client'
import type { BaselineWeek } from '@/api/types'
import { useGoing } from '@/frame/useGoing'
import { date } from '@/text/format'
import { driftInWords } from './week'

/** How far the baseline of now has moved from those that are kept by a name: the slow boil. */
const props = defineProps<{ instance: number; week: BaselineWeek; now: number }>()
const emit = defineEmits<{ changed: [] }>()
const { later, isGoing } = useGoing()
type Frozen = BaselineWeek['frozen'][number]
const keyOf = (one: Frozen) => `frozen ${props.instance} ${one.id}`
function remove(one: Frozen) {
  // by then another instance may be looked at
  const { instance } = props
  later(keyOf(one), `The baseline “${one.name}” goes`, async () => {
    await api.thaw(instance, one.id)
    emit('changed')
  })
}
</script>

<template>
  <article aria-label="Slowly moving?">
    <h3>Slowly moving?</h3>
    <p v-if="!week.frozen.length" class="soft">
      Normal follows slow changes, so that none of its days tells of them. Freeze a good week by a
      name: from then on it says here how far normal has moved from it.
    </p>
    <template v-for="one in week.frozen" :key="one.id">
      <div v-if="!isGoing(keyOf(one))" class="one">
        <p>
          <strong>{{ one.name }}</strong>
          <span class="soft"> {{ date(one.from) }} – {{ date(one.to) }}</span>
          <button
            v-may="'shape'"
            type="button"
            class="link"
            :aria-label="`Take the baseline ${one.name} away`"
            @click="remove(one)"
          >
            delete
          </button>
        </p>
        <p class="large">{{ driftInWords(one.drift) }}</p>
      </div>
    </template>
  </article>
</template>

<style scoped>
h3 {
  font-size: 14px;
}
.one {
  padding-top: 6px;
}
.one .link {
  margin-left: 8px;
}
.large {
  font-size: 15px;
}
p.soft {
  padding-top: 4px;
  font-size: 12.5px;
}
</style>
