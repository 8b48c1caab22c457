import { useIntervalFn } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'

/** How often the values of the bean that is looked at are asked for again, in ms. */
const EVERY = 5000

/** The managed beans of an instance, and what one of them says now. */
export function useBeans(instance: Ref<number | undefined>, name: Ref<string>) {
  const all = useAnswer(() => instance.value, api.beans)
  const one = useAnswer(
    () =>
      instance.value === undefined || !name.value
        ? undefined
        : { id: instance.value, bean: name.value },
    ({ id, bean }, signal) => api.beanAttributes(id, bean, signal),
  )
  useIntervalFn(() => document.hidden || void one.again(), EVERY)

  return {
    beans: computed(() => all.answer.value?.beans),
    unasked: computed(() => all.answer.value?.unasked ?? 0),
    attributes: one.answer,
    failure: computed(() => all.failure.value || one.failure.value),
    loading: computed(() => all.asking.value && !all.answer.value),
    reload: one.again,
    again: () => Promise.all([all.again(), one.again()]),
  }
}
