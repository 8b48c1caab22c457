import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Instance, InstanceState } from '@/api/types'

const instances = ref<Instance[]>([])
const loaded = ref(false)
const failure = ref('')

/** All instances with their states as told live. */
export function useInstances() {
  async function reload() {
    try {
      instances.value = await api.instances()
      failure.value = ''
    } catch (e) {
      failure.value = inWords(e)
    }
    loaded.value = true
  }

  function take(state: InstanceState) {
    const found = instances.value.find((instance) => instance.id === state.instance)
    if (found) found.state = state
    else void reload()
  }

  function drop(id: number) {
    instances.value = instances.value.filter((instance) => instance.id !== id)
  }

  return { instances, loaded, failure, reload, take, drop, byId }
}

export const byId = (id: number) =>
  computed(() => instances.value.find((instance) => instance.id === id))
