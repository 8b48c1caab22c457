import { createGlobalState, useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { onLive } from '@/live/useLive'
import { usePicked } from '@/window/usePicked'
import { WEEKS } from './rail'

const AGAIN_MS = 5 * 60_000

/** How far back the rail goes: six weeks, or, pulled out, to the first that is kept. */
export const useReach = createGlobalState(() => {
  const out = useLocalStorage('jamjar-rail-out', false)
  const { picked } = usePicked()
  const { answer, again } = useAnswer(
    () => picked.value.join(),
    (_, signal) => {
      const now = Date.now()
      return api.gaps(out.value ? 0 : now - WEEKS, now, picked.value, signal)
    },
    { instead: () => out.value },
  )
  useIntervalFn(again, AGAIN_MS)
  // its state is told with every reading: a gap begins or ends where it is another one
  const states = new Map<number, string>()
  onLive({
    state: ({ instance, state }) => {
      const before = states.get(instance)
      states.set(instance, state)
      const other = before !== undefined && before !== state
      if (other && picked.value.includes(instance)) void again()
    },
    missed: () => void again(),
  })

  const kept = computed(() => (answer.value?.first ? Date.now() - answer.value.first : 0))
  const reach = computed(() => (out.value ? Math.max(WEEKS, kept.value) : WEEKS))
  const gaps = computed(() => answer.value?.without ?? [])
  return { out, reach, gaps }
})
