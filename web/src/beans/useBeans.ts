import { computed, onScopeDispose, ref, watch, type Ref } from 'vue'
import { api, Failure } from '@/api/client'
import type { Bean, BeanAttribute } from '@/api/types'

/** How often the values of the bean that is looked at are asked for again, in ms. */
const EVERY = 5000

/** The managed beans of an instance, and what one of them says now. */
export function useBeans(instance: Ref<number | undefined>, name: Ref<string>) {
  const beans = ref<Bean[]>()
  const unasked = ref(0)
  const attributes = ref<BeanAttribute[]>()
  const failure = ref('')

  async function attempt<T>(what: () => Promise<T>): Promise<T | undefined> {
    try {
      const answer = await what()
      failure.value = ''
      return answer
    } catch (e) {
      failure.value = e instanceof Failure ? e.message : String(e)
      return undefined
    }
  }
  async function loadAll() {
    const id = instance.value
    beans.value = undefined
    if (id === undefined) return
    const all = await attempt(() => api.beans(id))
    // an answer about one that is not picked any more
    if (!all || id !== instance.value) return
    beans.value = all.beans
    unasked.value = all.unasked
  }
  async function loadOne() {
    const id = instance.value
    const bean = name.value
    if (id === undefined || !bean) return
    const told = await attempt(() => api.beanAttributes(id, bean))
    if (told && id === instance.value && bean === name.value) attributes.value = told
  }

  watch(instance, loadAll, { immediate: true })
  watch(
    [instance, name],
    () => {
      attributes.value = undefined
      void loadOne()
    },
    { immediate: true },
  )
  const timer = setInterval(() => document.hidden || void loadOne(), EVERY)
  onScopeDispose(() => clearInterval(timer))

  return {
    beans,
    unasked,
    attributes,
    failure,
    loading: computed(() => beans.value === undefined && !failure.value),
    reload: loadOne,
    again: () => Promise.all([loadAll(), loadOne()]),
  }
}
