<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { reactive } from 'vue'
import type { TellingDuty, TellingPerson } from '@/api/types'
import HeartbeatList from './HeartbeatList.vue'
import HoursField from './HoursField.vue'
import ManyField from './ManyField.vue'
import OnDutyNow from './OnDutyNow.vue'
import { usePlan } from './usePlan'
import { asTime, fromTime } from './words'

/** Who can be told, by what, and who has which duty when. */
const { draft, names } = usePlan()
const added = reactive({ person: '', duty: '' })

const put = (at: number, change: Partial<TellingPerson>) => {
  if (draft.value)
    draft.value.people = draft.value.people.map((one, i) =>
      i === at ? { ...one, ...change } : one,
    )
}
const putDuty = (at: number, change: Partial<TellingDuty>) => {
  if (draft.value)
    draft.value.duties = draft.value.duties.map((one, i) =>
      i === at ? { ...one, ...change } : one,
    )
}
function addPerson() {
  draft.value?.people.push({
    name: added.person.trim(),
    ways: names.value[0] ? [{ channel: names.value[0], address: '' }] : [],
    hours: { days: [], from: 0, to: 0, holidays: 'as_any' },
  })
  added.person = ''
}
function addDuty() {
  const monday = new Date()
  monday.setUTCDate(monday.getUTCDate() - ((monday.getUTCDay() + 6) % 7))
  draft.value?.duties.push({
    name: added.duty.trim(),
    people: [],
    from: monday.toISOString().slice(0, 10),
    days: 7,
    minute: 480,
    swaps: [],
  })
  added.duty = ''
}
const value = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <template v-if="draft">
    <h2>People</h2>
    <p class="soft">
      Who has an account of the same name is told only of what is in its scope. The first way is
      taken; the next where that does not get through.
    </p>
    <div v-for="(person, i) in draft.people" :key="person.name" class="one">
      <h3>
        {{ person.name }}
        <button
          type="button"
          class="link"
          :aria-label="`Remove ${person.name}`"
          @click="draft.people.splice(i, 1)"
        >
          remove
        </button>
      </h3>
      <p v-for="(way, w) in person.ways" :key="w" class="way">
        <label
          >by
          <select v-model="way.channel" :aria-label="`Channel of ${person.name}`">
            <option v-for="name in names" :key="name">{{ name }}</option>
          </select></label
        >
        <label
          >to <input v-model="way.address" :aria-label="`Address of ${person.name}`" size="32"
        /></label>
        <button type="button" class="link" @click="person.ways.splice(w, 1)">remove</button>
      </p>
      <p v-if="!person.ways.length" class="warning">◣ There is no way to tell {{ person.name }}.</p>
      <button
        v-if="names.length"
        type="button"
        class="link"
        @click="person.ways.push({ channel: names[0] ?? '', address: '' })"
      >
        another way
      </button>
      <HoursField
        :model-value="person.hours"
        of="Told at once, when not on duty"
        @update:model-value="(hours) => put(i, { hours })"
      />
    </div>
    <form class="add" @submit.prevent="addPerson">
      <label>Name<ElInput v-model="added.person" autocomplete="off" /></label>
      <ElButton native-type="submit" :disabled="!added.person.trim()">Add a person</ElButton>
    </form>
    <h2>Duties</h2>
    <OnDutyNow />
    <div v-for="(duty, i) in draft.duties" :key="duty.name" class="one">
      <h3>
        {{ duty.name }}
        <button
          type="button"
          class="link"
          :aria-label="`Remove the duty ${duty.name}`"
          @click="draft.duties.splice(i, 1)"
        >
          remove
        </button>
      </h3>
      <div class="way">
        <ManyField
          :model-value="duty.people"
          :of="`In turn, ${duty.name}`"
          :choices="draft.people.map((one) => [one.name, one.name])"
          @update:model-value="(people) => putDuty(i, { people })"
        />
        <label>the first from <input v-model="duty.from" type="date" /></label>
        <label
          >each for
          <input v-model.number="duty.days" type="number" min="1" max="366" class="short" />
          days</label
        >
        <label
          >changing at
          <input
            type="time"
            :value="asTime(duty.minute)"
            @change="putDuty(i, { minute: fromTime(value($event)) ?? duty.minute })"
        /></label>
      </div>
    </div>
    <form class="add" @submit.prevent="addDuty">
      <label>Name<ElInput v-model="added.duty" autocomplete="off" /></label>
      <ElButton native-type="submit" :disabled="!added.duty.trim()">Add a duty</ElButton>
    </form>
    <h2>The report of the night</h2>
    <p class="way">
      <label
        >goes out at
        <input
          type="time"
          :value="asTime(draft.reportMinute)"
          aria-label="When the report of the night goes out"
          @change="draft.reportMinute = fromTime(value($event)) ?? draft.reportMinute"
      /></label>
      <label>in the zone <input v-model.lazy="draft.zone" aria-label="Zone of all hours" /></label>
    </p>
    <HeartbeatList />
  </template>
</template>

<style scoped src="./plan.css"></style>
