<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { useTitle } from '@vueuse/core'
import { onMounted, ref } from 'vue'
import { fieldOf, inWords } from '@/api/client'
import { router } from '@/router'
import { goElsewhere, refusalInWords } from './elsewhere'
import { useMe } from './useMe'

/**
 * For who is not signed in: by name and password, or by a key behind the address that lets in once,
 * by which also the first administrator is made. The page asked for is shown afterwards.
 */
const { me, been, signIn, enter, makeFirst } = useMe()
const name = ref(been.value)
const password = ref('')
const key = ref('')
const making = ref(false)
const busy = ref(false)
const failure = ref(refusalInWords(new URLSearchParams(location.search).get('refused') ?? ''))
const wrong = ref('')
useTitle('Sign in · Jam Jar')

async function attempt(what: () => Promise<unknown>) {
  busy.value = true
  failure.value = wrong.value = ''
  try {
    await what()
    password.value = ''
  } catch (e) {
    failure.value = inWords(e)
    wrong.value = fieldOf(e)
  }
  busy.value = false
}

onMounted(() => {
  const found = /^#key=([\w-]+)$/.exec(location.hash)?.[1]
  if (location.pathname !== '/enter') return
  if (!found) return void router.replace('/')
  key.value = found
  void attempt(async () => {
    making.value = await enter(found)
    // the key is left in no history
    if (!making.value) await router.replace('/')
  })
})
async function send() {
  await attempt(async () => {
    if (making.value) await makeFirst(key.value, name.value, password.value)
    else await signIn(name.value, password.value)
    if (location.pathname === '/enter') await router.replace('/')
  })
}
</script>

<template>
  <main class="entry" aria-labelledby="entry-title">
    <form novalidate @submit.prevent="send">
      <h1 id="entry-title">{{ making ? 'The first administrator' : 'Jam Jar' }}</h1>
      <p v-if="making" class="soft">
        Who administers lets others in, and says how far each may go.
      </p>
      <p v-else-if="been" class="soft">
        You have been signed out. What you had on the screen is there again once you are back.
      </p>
      <p v-else-if="me?.first" class="soft">
        Nobody has an account yet. On Jam Jar's machine, <code>./jamjar open</code> prints an
        address by which the first administrator is made.
      </p>
      <template v-if="making || !me?.first">
        <label
          >Name<ElInput v-model="name" name="username" autocomplete="username" autofocus
        /></label>
        <label
          >Password<ElInput
            v-model="password"
            type="password"
            name="password"
            show-password
            :aria-invalid="wrong === 'password'"
            :autocomplete="making ? 'new-password' : 'current-password'"
        /></label>
        <p v-if="making" class="soft">
          At least 12 signs: several words that do not go together are good.
        </p>
      </template>
      <p v-if="failure" class="warning" role="alert">◣ {{ failure }}</p>
      <ElButton
        v-if="making || !me?.first"
        type="primary"
        native-type="submit"
        :disabled="busy || !name.trim() || !password"
        >{{ making ? 'Begin' : 'Sign in' }}</ElButton
      >
      <ElButton v-if="me?.elsewhere && !making" class="elsewhere" @click="goElsewhere"
        >Sign in by {{ me.elsewhere }}</ElButton
      >
      <RouterLink v-if="me?.name" class="link" to="/shelf">go on as {{ me.name }}</RouterLink>
    </form>
  </main>
</template>

<style scoped>
.entry {
  display: grid;
  place-items: center;
}
form {
  display: flex;
  flex-direction: column;
  gap: 12px;
  width: min(380px, 100%);
  padding: 24px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
}
label {
  color: var(--ink-soft);
  font-size: 12px;
}
.elsewhere {
  margin-left: 0;
}
</style>
