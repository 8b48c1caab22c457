<script setup lang="ts">
import { ElButton, ElInput, ElMessageBox } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { useMe } from '@/access/useMe'
import { api } from '@/api/client'
import { useAttempt } from '@/api/useAttempt'
import type { Channel, ChannelBody, ChannelTrial } from '@/api/types'
import { many, momentInWords } from '@/text/format'
import { useClock } from '@/window/useClock'
import { usePlan } from './usePlan'

/** By what is told: mail servers and web hooks. Each can be sent a trial. */
const { channels, channelsAgain } = usePlan()
const { may } = useMe()
const now = useClock()
const { refused, attempt } = useAttempt(channelsAgain)
const trial = ref<{ name: string } & ChannelTrial>()
const trialTo = ref('')

/** Written so as not to be put in here itself. */
const AN_EXAMPLE = `{{${'subject'}}}`

const EMPTY = {
  name: '',
  kind: 'mail' as 'mail' | 'hook',
  host: '',
  port: 587,
  tls: 'starttls',
  user: '',
  from: '',
  ca: '',
  url: '',
  template: '',
  secret: '',
  changing: false,
}
const form = reactive({ ...EMPTY })
const body = computed<ChannelBody>(() => {
  const secret = form.secret || (form.changing ? null : '')
  const { host, port, tls, user, from, ca, url, template } = form
  return form.kind === 'mail'
    ? { mail: { host, port, tls, user, from, ca }, hook: null, secret }
    : { mail: null, hook: { url, ca, template }, secret }
})
async function save() {
  if (await attempt(() => api.putChannel(form.name.trim(), body.value))) Object.assign(form, EMPTY)
}
function change(one: Channel) {
  Object.assign(form, EMPTY, one.mail ?? one.hook, {
    name: one.name,
    kind: one.mail ? 'mail' : 'hook',
    changing: true,
  })
}
async function remove(one: Channel) {
  const sure = await ElMessageBox.confirm('What is secret of it is gone for good.', one.name, {
    confirmButtonText: `Remove ${one.name}`,
    cancelButtonText: 'Keep it',
  }).catch(() => false)
  if (sure) await attempt(() => api.removeChannel(one.name))
}
const tryIt = (one: Channel) =>
  attempt(async () => {
    trial.value = undefined
    const told = await api.tryChannel(one.name, one.mail ? trialTo.value.trim() : '')
    trial.value = { name: one.name, ...told }
  })
const placeOf = (one: Channel) =>
  one.mail
    ? `${one.mail.host}:${one.mail.port}, ${one.mail.tls === 'off' ? 'not encrypted' : one.mail.tls}`
    : one.hook?.url
</script>

<template>
  <p v-if="refused" class="warning" role="alert">◣ {{ refused }}</p>
  <p v-if="trial" role="status" :class="{ warning: trial.outcome !== 'sent' }">
    {{ trial.outcome === 'sent' ? 'The trial was taken' : '◣ The trial was not taken' }} by
    {{ trial.name }}: {{ trial.answer }}
  </p>
  <p v-if="channels && !channels.length" class="soft">
    None yet. Without a channel nobody can be told: add a mail server or a web hook below.
  </p>
  <template v-else-if="channels">
    <label v-if="may('administer')" class="to"
      >Trials by mail go to <ElInput v-model="trialTo" placeholder="your address"
    /></label>
    <table class="rows" aria-label="Channels">
      <thead>
        <tr>
          <th>Name</th>
          <th>Leads to</th>
          <th>Secret</th>
          <th>How it does</th>
          <th><span class="unseen">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in channels" :key="one.name">
          <th scope="row">{{ one.name }}</th>
          <td>{{ placeOf(one) }}</td>
          <td>{{ one.hasSecret ? 'set' : 'none' }}</td>
          <td :class="{ warning: one.failingSince }">
            <template v-if="one.failingSince"
              >◣ nothing gets through since {{ momentInWords(one.failingSince, now) }}:
              {{ one.answer }}</template
            ><template v-else>{{ one.answer || 'not used yet' }}</template
            ><template v-if="one.waiting">, {{ many(one.waiting, 'message') }} waiting</template>
          </td>
          <td>
            <span v-if="may('administer')" class="acts">
              <button
                type="button"
                class="link"
                :disabled="!!one.mail && !trialTo.trim()"
                :title="one.mail && !trialTo.trim() ? 'say above where it goes' : undefined"
                @click="tryIt(one)"
              >
                send a trial
              </button>
              <button type="button" class="link" @click="change(one)">change …</button>
              <button type="button" class="link remove" @click="remove(one)">remove …</button>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
  </template>
  <form v-if="may('administer')" class="form" novalidate @submit.prevent="save">
    <label>Name<ElInput v-model="form.name" :disabled="form.changing" autocomplete="off" /></label>
    <label
      >Kind
      <select v-model="form.kind">
        <option value="mail">mail</option>
        <option value="hook">web hook</option>
      </select></label
    >
    <template v-if="form.kind === 'mail'">
      <label>Mail server<ElInput v-model="form.host" autocomplete="off" /></label>
      <label class="short">Port<ElInput v-model.number="form.port" /></label>
      <label
        >Encryption
        <select v-model="form.tls">
          <option value="starttls">STARTTLS</option>
          <option value="tls">TLS from the start</option>
          <option value="off">none</option>
        </select></label
      >
      <label>User, where it asks for one<ElInput v-model="form.user" autocomplete="off" /></label>
      <label>From<ElInput v-model="form.from" placeholder="jamjar@…" autocomplete="off" /></label>
    </template>
    <template v-else>
      <label class="wide">Address<ElInput v-model="form.url" placeholder="https://…" /></label>
      <label class="wide"
        >What is sent, as JSON with {{ AN_EXAMPLE }} and others put in; empty for all there
        is<ElInput v-model="form.template" type="textarea" :rows="3" class="code"
      /></label>
    </template>
    <label
      >{{ form.kind === 'mail' ? 'Password' : 'What it is signed with' }}
      <ElInput
        v-model="form.secret"
        type="password"
        autocomplete="new-password"
        :placeholder="form.changing ? 'as it is' : 'none'"
    /></label>
    <label v-if="form.tls !== 'off' || form.kind === 'hook'" class="wide"
      >Certificates to trust, in PEM; empty for those of the machine<ElInput
        v-model="form.ca"
        type="textarea"
        :rows="2"
    /></label>
    <span class="acts">
      <ElButton type="primary" native-type="submit" :disabled="!form.name.trim()">{{
        form.changing ? 'Change it' : 'Add a channel'
      }}</ElButton>
      <ElButton v-if="form.changing" @click="Object.assign(form, EMPTY)">Cancel</ElButton>
    </span>
  </form>
</template>

<style scoped>
.form {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: 12px;
  max-width: 860px;
  padding: 16px 0;
}
.form label {
  flex: 1 1 180px;
  color: var(--ink-soft);
  font-size: 12px;
}
.form select {
  display: block;
  width: 100%;
  height: 32px;
}
.form .wide {
  flex: 1 1 100%;
}
.form .short {
  flex: 0 0 80px;
}
.to {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 460px;
  max-width: 100%;
  padding-bottom: 8px;
  color: var(--ink-soft);
  white-space: nowrap;
}
td {
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.remove {
  color: var(--raspberry);
}
</style>
