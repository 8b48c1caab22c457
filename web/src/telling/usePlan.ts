import { computed, inject, provide, ref, watch, type InjectionKey } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useAttempt } from '@/api/useAttempt'
import type { Channel, TellingPlan } from '@/api/types'
import { onLive } from '@/live/useLive'
import { useUnsaved } from '@/unsaved/useUnsaved'

/**
 * The plan of who is told, as it is being changed: nothing of it holds before it is saved, and what
 * somebody else has saved meanwhile is not written over.
 */
function makePlan(wanted: () => boolean) {
  const draft = ref<TellingPlan>()
  const saved = ref('')
  const { refused, attempt } = useAttempt()
  const { answer, failure, again } = useAnswer(
    () => wanted() || undefined,
    (_, signal) => api.telling(signal),
  )
  const { answer: channels, again: channelsAgain } = useAnswer(
    () => wanted() || undefined,
    (_, signal) => api.channels(signal),
  )
  const text = computed(() => JSON.stringify(draft.value))
  const changed = computed(() => draft.value !== undefined && text.value !== saved.value)
  const names = computed(() => (channels.value ?? []).map((one: Channel) => one.name))

  function take(plan: TellingPlan) {
    draft.value = structuredClone(plan)
    saved.value = JSON.stringify(plan)
  }
  watch(answer, (plan) => plan && !changed.value && take(plan), { immediate: true })
  onLive({
    changed: (what) => {
      if (what === 'telling') void again()
      // how a channel does is told by what became of messages
      if (what === 'telling' || what === 'messages') void channelsAgain()
    },
  })
  useUnsaved(
    () => (changed.value ? 'changed' : ''),
    'who is told',
    (to) => to.path !== '/telling',
  )

  const save = () =>
    attempt(async () => {
      if (draft.value) take(await api.putTelling(draft.value))
    })
  async function undo() {
    const plan = await api.telling()
    refused.value = ''
    take(plan)
  }
  return { draft, changed, names, channels, channelsAgain, failure, refused, save, undo }
}

const KEY: InjectionKey<ReturnType<typeof makePlan>> = Symbol('plan')

/** For the page whose parts change it. */
export function providePlan(wanted: () => boolean) {
  const plan = makePlan(wanted)
  provide(KEY, plan)
  return plan
}

export function usePlan() {
  const plan = inject(KEY)
  if (!plan) throw new Error('no plan is provided')
  return plan
}
