<script setup lang="ts">
import { ElButton } from 'element-plus'
import { reactive, ref } from 'vue'
import { useMe } from '@/access/useMe'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import { onLive } from '@/live/useLive'
import { momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'

/** Who has each duty now; and tonight's swap. */
const now = useClock()
const { may, whole } = useMe()
const { answer: duties, again } = useAnswer(
  () => 'duty',
  (_, signal) => api.onDuty(signal),
)
onLive({ changed: (what) => what === 'telling' && void again() })
const { refused, attempt } = useAttempt(again)
const swapping = ref<string>()
const form = reactive({ person: '', hours: 12 })
const HOURS = [4, 8, 12, 24, 168]

async function swap(duty: string) {
  const from = Date.now()
  const body = { from, to: from + form.hours * 3_600_000, person: form.person.trim() }
  if (await attempt(() => api.swapDuty(duty, body))) swapping.value = undefined
}
</script>

<template>
  <div v-for="one in duties" :key="one.duty" class="duty">
    <p>
      <span class="soft">{{ one.duty }}:</span>
      <strong>{{ one.person || 'nobody' }}</strong>
      <span v-if="one.until" class="soft">until {{ momentInWords(one.until, now) }}</span>
      <button
        v-if="may('act') && whole() && swapping !== one.duty"
        type="button"
        class="link"
        @click="swapping = one.duty"
      >
        swap …
      </button>
    </p>
    <form v-if="swapping === one.duty" class="swap" @submit.prevent="swap(one.duty)">
      <label>Who has it instead <input v-model="form.person" autofocus /></label>
      <label
        >for
        <select v-model="form.hours">
          <option v-for="hours in HOURS" :key="hours" :value="hours">
            {{ hours === 168 ? 'a week' : `${hours} hours` }}
          </option>
        </select></label
      >
      <ElButton type="primary" native-type="submit" :disabled="!form.person.trim()"
        >Swap it</ElButton
      >
      <ElButton @click="swapping = undefined">Cancel</ElButton>
    </form>
    <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
  </div>
</template>

<style scoped>
.duty {
  padding-bottom: 8px;
}
.duty > p:first-child {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.swap {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
}
.swap :deep(.el-button + .el-button) {
  margin-left: 0;
}
</style>
