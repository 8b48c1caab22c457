<script setup lang="ts">
import '@/look/choices'
import {
  ElButton,
  ElDrawer,
  ElInput,
  ElInputNumber,
  ElMessageBox,
  ElOption,
  ElRadio,
  ElRadioGroup,
  ElSelect,
} from 'element-plus'
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { api, Failure, inWords } from '@/api/client'
import type { Check, InstanceBody, Recipes, StoredCredential } from '@/api/types'
import CopyText from '@/text/CopyText.vue'
import { ownZone } from '@/text/format'
import { usePicked } from '@/window/usePicked'
import CheckList from './CheckList.vue'
import FoundJvms from './FoundJvms.vue'
import { isOwn, KINDS } from './kinds'
import { generated, readerCommands, startOptions } from './readerCommands'
import { whatIsKept } from './removed'
import { useGoing } from '@/frame/useGoing'
import { useInstances } from './useInstances'
import { useUnsaved } from '@/unsaved/useUnsaved'

/** Adds an instance, or changes or removes the one given. Nothing is saved that does not work, unless one insists. */
const props = defineProps<{ id?: number }>()
const emit = defineEmits<{ close: [] }>()

const { instances, reload } = useInstances()
const { keep, later } = useGoing()
const { pick } = usePicked()
const before = instances.value.find((instance) => instance.id === props.id)

const body = reactive<InstanceBody>({
  name: before?.name ?? '',
  kind: before?.kind ?? 'postgresql',
  group: before?.group ?? '',
  site: before?.site ?? '',
  machine: before?.machine ?? '',
  tags: before?.tags ?? [],
  endpoint: before
    ? { ...before.endpoint }
    : { host: '', port: 5432, database: 'postgres', tls: 'checked', ca: '' },
  credential: {
    user: before?.user ?? 'jamjar_reader',
    secret: '',
    name: before?.credential ?? '',
  },
  recipe: before?.recipe ?? 'postgresql',
  interval: before?.interval ?? 10,
  zone: before?.zone ?? ownZone,
  uses: before?.uses ?? [],
})
const tags = computed({
  get: () => body.tags.join(' '),
  set: (text) => (body.tags = text.split(/[\s,]+/).filter(Boolean)),
})

const { closing } = useUnsaved(
  () => [
    [body.name, body.group, body.site, body.machine, body.tags, body.zone, body.uses],
    [body.endpoint.host, body.endpoint.ca, body.credential.user, body.credential.secret],
  ],
  'the instance',
)
const checks = ref<Check[]>([])
const failure = ref('')
const fault = ref('')
const busy = ref('')
const insisting = ref(false)
const engine = computed(() => body.kind === 'postgresql')
/** One that was made here stands in the commands too: it is typed by nobody. */
const made = ref('')
function makeOne() {
  made.value = generated()
  body.credential.secret = made.value
}
const own = computed(() => (body.credential.secret === made.value ? made.value : ''))
const commands = computed(() =>
  engine.value
    ? readerCommands(body.credential.user, body.endpoint.database, own.value)
    : startOptions(body, own.value),
)
/** A JVM of this machine is attached to: it needs no port. */
const attached = ref(before?.kind === 'jvm' && before.endpoint.port === 0)

/** Nothing is tried before the recipes are known: without one it can't be. */
const ready = ref(false)
const stored = ref<StoredCredential[]>([])
const recipes = ref<Recipes>({ recipes: [], faults: [] })
const makes = computed(() => recipes.value.recipes.filter((r) => r.kind === body.kind))
onMounted(async () => {
  try {
    ;[recipes.value, stored.value] = await Promise.all([api.recipes(), api.credentials()])
  } catch (e) {
    told(e)
  }
  ready.value = true
})

/** The recipes may come after the kind was chosen. */
watch(makes, (now) => {
  if (!before && !now.some((make) => make.key === body.recipe))
    body.recipe = now[0]?.key ?? body.recipe
})

const PORTS: Record<string, number> = { postgresql: 5432, jvm: 9010, appserver: 9010 }
function kindChosen() {
  reset()
  checks.value = []
  attached.value = false
  body.recipe = makes.value[0]?.key ?? ''
  chosen.value = false
  taken.value = ''
  body.endpoint.port = PORTS[body.kind] ?? 0
  body.endpoint.database = engine.value ? 'postgres' : ''
  body.credential.user = engine.value ? 'jamjar_reader' : ''
}
function attachChosen() {
  body.endpoint.port = attached.value ? 0 : 9010
  body.endpoint.database = ''
  body.endpoint.tls = attached.value ? 'off' : 'checked'
}

function reset() {
  failure.value = ''
  fault.value = ''
  insisting.value = false
}

function told(e: unknown) {
  failure.value = inWords(e)
  if (e instanceof Failure) {
    fault.value = e.field
    if (e.checks.length) {
      checks.value = e.checks
      insisting.value = true
    }
  }
}

/** A recipe that nobody has chosen gives way to the one that fits what answers. */
const chosen = ref(before !== undefined)
const taken = ref('')
function takesOther(): boolean {
  const fits = checks.value.find((c) => c.recipe)?.recipe
  const make = makes.value.find((m) => m.key === fits)
  if (chosen.value || !make) return false
  takeRecipe(make.key)
  taken.value = `By its managed beans it is of this make: ${make.name}.`
  return true
}
function takeRecipe(key: string) {
  body.recipe = key
  chosen.value = true
  taken.value = ''
}
function byRecipe(key: string) {
  takeRecipe(key)
  void check()
}

/** What was found stands below the fields: it comes into view. */
const list = ref<InstanceType<typeof CheckList>>()
watch(checks, () => list.value?.$el.scrollIntoView({ block: 'nearest' }), { flush: 'post' })

/** Whether it answers does not depend on its name: that may come later. */
const tried = () => api.preflight({ ...body, name: body.name || 'not named yet' }, props.id)

async function check() {
  reset()
  busy.value = 'checking'
  try {
    checks.value = await tried()
    if (takesOther()) checks.value = await tried()
  } catch (e) {
    told(e)
  }
  busy.value = ''
}

async function save(insist: boolean) {
  reset()
  taken.value = ''
  busy.value = 'saving'
  await attempt(insist)
  if (insisting.value && takesOther()) {
    reset()
    await attempt(insist)
  }
  busy.value = ''
}

async function attempt(insist: boolean) {
  try {
    const saved =
      props.id === undefined
        ? await api.addInstance(body, insist)
        : await api.changeInstance(props.id, body, insist)
    keep(`instances ${saved.id}`)
    await reload()
    pick([saved.id])
    emit('close')
  } catch (e) {
    told(e)
  }
}

async function remove() {
  if (!before) return
  const sure = await ElMessageBox.confirm(whatIsKept([before.name]), `Remove ${before.name}`, {
    confirmButtonText: `Remove ${before.name}`,
    cancelButtonText: 'Keep it',
  }).catch(() => false)
  if (!sure) return
  const gone = before
  later(`instances ${gone.id}`, `${gone.name} will be removed`, async () => {
    await api.removeInstance(gone.id)
    await reload()
  })
  emit('close')
}
</script>

<template>
  <ElDrawer
    append-to="#answers"
    :model-value="true"
    :title="before ? `Change ${before.name}` : 'Add an instance'"
    size="640px"
    :close-on-click-modal="false"
    :before-close="closing"
    @close="emit('close')"
  >
    <form @submit.prevent="save(false)">
      <fieldset v-if="!before">
        <legend id="kind-label">What it is</legend>
        <ElRadioGroup v-model="body.kind" aria-labelledby="kind-label" @change="kindChosen">
          <ElRadio v-for="kind in ['postgresql', 'jvm', 'appserver']" :key="kind" :value="kind">{{
            KINDS[kind]
          }}</ElRadio>
        </ElRadioGroup>
      </fieldset>
      <fieldset v-if="makes.length > 1 || recipes.faults.length">
        <label :class="{ fault: fault === 'recipe' }"
          >Recipe: the counters of its make{{ chosen ? '' : '; the checks find the one that fits'
          }}<ElSelect v-model="body.recipe" aria-label="Recipe" @change="takeRecipe(body.recipe)">
            <ElOption
              v-for="make in makes"
              :key="make.key"
              :value="make.key"
              :label="`${make.name}, ${make.counters} counters`"
            /> </ElSelect
        ></label>
        <p v-if="taken" class="soft" role="status">{{ taken }}</p>
        <p v-for="sentence in recipes.faults" :key="sentence" class="warning">◣ {{ sentence }}</p>
      </fieldset>

      <fieldset>
        <legend>Where it answers</legend>
        <ElRadioGroup
          v-if="body.kind === 'jvm'"
          v-model="attached"
          aria-label="How it is reached"
          @change="attachChosen"
        >
          <ElRadio :value="false">at a host and port</ElRadio>
          <ElRadio :value="true">a JVM of this machine</ElRadio>
        </ElRadioGroup>
        <FoundJvms v-if="attached" v-model="body.endpoint.database" />
        <div v-if="!attached" class="fields">
          <label :class="{ fault: fault === 'endpoint.host' }"
            >Host<ElInput v-model="body.endpoint.host" placeholder="name or address" autofocus
          /></label>
          <label class="short" :class="{ fault: fault === 'endpoint.port' }"
            >Port<ElInputNumber
              v-model="body.endpoint.port"
              :min="1"
              :max="65535"
              :controls="false"
          /></label>
          <label v-if="engine" :class="{ fault: fault === 'endpoint.database' }"
            >Database<ElInput v-model="body.endpoint.database"
          /></label>
        </div>
        <div v-if="!attached" class="tls">
          <span id="tls-label">Encryption (TLS)</span>
          <ElRadioGroup v-model="body.endpoint.tls" aria-labelledby="tls-label">
            <ElRadio value="checked">certificate checked</ElRadio>
            <ElRadio value="encrypted">encrypted, not checked</ElRadio>
            <ElRadio value="off">off</ElRadio>
          </ElRadioGroup>
        </div>
        <label v-if="!attached && body.endpoint.tls === 'checked'"
          >Trusted certificate (CA), in PEM; empty: those that this machine trusts<ElInput
            v-model="body.endpoint.ca"
            type="textarea"
            :rows="3"
            placeholder="-----BEGIN CERTIFICATE-----"
        /></label>
      </fieldset>

      <fieldset v-if="!attached">
        <legend>
          {{
            engine
              ? 'A role that may only read statistics'
              : 'A user who may only read, if it asks for one'
          }}
        </legend>
        <label v-if="stored.length" :class="{ fault: fault === 'credential.name' }"
          >Stored credential<ElSelect
            v-model="body.credential.name"
            :empty-values="[null, undefined]"
          >
            <ElOption value="" label="none: a user and a password of its own" />
            <ElOption
              v-for="one in stored"
              :key="one.name"
              :value="one.name"
              :label="`${one.name}, user ${one.user}`"
            /> </ElSelect
        ></label>
        <div v-if="!body.credential.name" class="fields">
          <label :class="{ fault: fault === 'credential.user' }"
            >User<ElInput v-model="body.credential.user" autocomplete="off"
          /></label>
          <label :class="{ fault: fault === 'credential.secret' }"
            >Password<ElInput
              v-model="body.credential.secret!"
              type="password"
              autocomplete="new-password"
              :placeholder="before ? 'unchanged' : ''"
          /></label>
          <button type="button" class="link" @click="makeOne">
            {{ own ? 'generate another' : 'generate one' }}
          </button>
        </div>
        <p v-if="own" class="soft" role="status">
          A password was generated; it stands in the commands below, and is kept here encrypted.
        </p>
        <details :open="own !== ''">
          <summary>
            {{
              engine
                ? 'It does not exist yet: commands to run there, as a superuser'
                : 'It does not answer yet: what to start it with'
            }}
          </summary>
          <CopyText :text="commands" :what="engine ? 'commands' : 'options'" />
        </details>
      </fieldset>

      <fieldset>
        <legend>How it stands on the shelf</legend>
        <div class="fields">
          <label :class="{ fault: fault === 'name' }"
            >Name<ElInput v-model="body.name" :placeholder="engine ? 'booking-db-a' : 'booking-1'"
          /></label>
          <label
            >Group<ElInput v-model="body.group" :placeholder="engine ? 'booking-db' : 'booking'"
          /></label>
          <label>Site<ElInput v-model="body.site" placeholder="Northquay" /></label>
        </div>
        <div class="fields">
          <label>Machine<ElInput v-model="body.machine" /></label>
          <label>Tags<ElInput v-model="tags" placeholder="writer" /></label>
          <label :class="{ fault: fault === 'zone' }"
            >Time zone<ElInput v-model="body.zone"
          /></label>
          <label class="short"
            >Every … s<ElInputNumber v-model="body.interval" :min="1" :max="3600" :controls="false"
          /></label>
        </div>
        <label
          >Uses: instances, or a pool with the one that it leads to<ElSelect
            v-model="body.uses"
            aria-label="Uses"
            multiple
            filterable
            allow-create
            default-first-option
            :reserve-keyword="false"
            placeholder="bookingPool=booking-db-a"
          >
            <ElOption
              v-for="other in instances.filter((i) => i.id !== props.id && !isOwn(i))"
              :key="other.id"
              :value="other.name"
              :label="other.name"
            /> </ElSelect
        ></label>
      </fieldset>

      <CheckList
        v-if="checks.length"
        ref="list"
        :checks="checks"
        :recipes="makes"
        @recipe="byRecipe"
      />
      <p v-if="failure" class="failure warning" role="alert">◣ {{ failure }}</p>

      <div class="buttons">
        <ElButton
          type="primary"
          native-type="submit"
          :disabled="!ready"
          :loading="busy === 'saving'"
          >{{ before ? 'Save' : 'Check and add' }}</ElButton
        >
        <ElButton :disabled="!ready" :loading="busy === 'checking'" @click="check"
          >Check only</ElButton
        >
        <ElButton v-if="insisting" @click="save(true)">Save all the same</ElButton>
        <ElButton @click="closing(() => emit('close'))">Cancel</ElButton>
        <button v-if="before" class="link remove" type="button" @click="remove">
          remove {{ before.name }} …
        </button>
      </div>
    </form>
  </ElDrawer>
</template>

<style scoped>
fieldset {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  min-width: 0;
  margin: 0 0 16px;
  padding: 0;
  border: 0;
}
legend {
  padding-bottom: 4px;
  font-weight: 600;
}
.fields {
  display: flex;
  gap: 12px;
}
label {
  flex: 1;
  color: var(--ink-soft);
  font-size: 12px;
}
label.short {
  flex: 0 0 96px;
}
label.short :deep(.el-input-number) {
  width: 96px;
}
label.short :deep(input) {
  text-align: left;
}
.fault {
  color: var(--raspberry);
}
.fault :deep(.el-input__wrapper) {
  box-shadow: 0 0 0 1px var(--raspberry) inset;
}
.tls {
  display: flex;
  align-items: center;
  gap: 16px;
  font-size: 12px;
}
.tls > span {
  color: var(--ink-soft);
}
summary {
  color: var(--plum);
  cursor: pointer;
}
.failure {
  padding: 8px 0;
}
.buttons {
  display: flex;
  align-items: center;
  padding-top: 8px;
}
.remove {
  margin-left: auto;
  color: var(--raspberry);
}
</style>
