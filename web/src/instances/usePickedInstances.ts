import { computed } from 'vue'
import { usePicked } from '@/window/usePicked'
import { useInstances } from './useInstances'

/** The picked instances that are under watch, in the order of the pick. */
export function usePickedInstances() {
  const { picked } = usePicked()
  const { instances } = useInstances()
  return computed(() =>
    picked.value.flatMap((id) => instances.value.find((i) => i.id === id) ?? []),
  )
}
