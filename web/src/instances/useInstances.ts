import { createGlobalState } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Instance, InstanceState } from '@/api/types'
import { onLive } from '@/live/useLive'
import { useQuarter } from '@/window/useQuarter'

/** All instances with their states as told live. */
export const useInstances = createGlobalState(() => {
  const instances = ref<Instance[]>([])
  const quarter = useQuarter()
  const {
    answer,
    failure,
    asking,
    again: reload,
  } = useAnswer(
    () => 'instances',
    (_, signal) => api.instances(signal),
    {
      // the marks of the jars are what is normal now
      follows: () => quarter.value,
    },
  )
  watch(answer, (now) => (instances.value = now ?? []))
  const loaded = computed(() => answer.value !== undefined || (!asking.value && !!failure.value))

  /** Of one that is not known all are asked for, once. */
  const unknown = new Set<number>()
  function take(state: InstanceState) {
    const found = instances.value.find((instance) => instance.id === state.instance)
    if (found) found.state = state
    else if (loaded.value && !unknown.has(state.instance)) {
      unknown.add(state.instance)
      void reload()
    }
  }

  function drop(id: number) {
    instances.value = instances.value.filter((instance) => instance.id !== id)
  }

  onLive({ state: take, removed: drop, missed: () => void reload() })
  return { instances, loaded, failure, reload, take }
})

export const byId = (id: number) => {
  const { instances } = useInstances()
  return computed(() => instances.value.find((instance) => instance.id === id))
}
