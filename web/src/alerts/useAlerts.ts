import { createGlobalState, useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { onLive } from '@/live/useLive'
import { isOfHeads, kindOf, worstFirst } from './alert'

/** Also without a word that they are not as they were. */
const AGAIN_MS = 60_000

/** The open alerts, worst and oldest first; those that are kept quiet or known apart. */
export const useAlerts = createGlobalState(() => {
  const {
    answer,
    failure,
    again: reload,
  } = useAnswer(
    () => 'open',
    (_, signal) => api.openAlerts(signal),
  )
  onLive({ changed: (what) => what === 'alerts' && void reload(), missed: () => void reload() })
  useIntervalFn(reload, AGAIN_MS)

  const open = computed(() => answer.value ?? [])
  const told = computed(() =>
    open.value.filter((alert) => !alert.quiet && !alert.known).sort(worstFirst),
  )
  const count = (kind: string) => told.value.filter((alert) => kindOf(alert) === kind).length
  const counts = computed(() => ({
    critical: count('critical'),
    warning: count('warning'),
    silent: count('silent'),
    known: open.value.filter((alert) => alert.known && !alert.quiet).length,
  }))
  const byInstance = computed(() => {
    const worst = new Map<number, (typeof told.value)[number]>()
    for (const alert of told.value) {
      // nothing is wrong with the one that counts heads
      if (!isOfHeads(alert) && !worst.has(alert.instance)) worst.set(alert.instance, alert)
    }
    return worst
  })
  const worstOf = (instance: number) => byInstance.value.get(instance)
  /** That somebody of a group is missing, or too many. */
  const headsOf = (group: string) =>
    told.value.find((alert) => isOfHeads(alert) && alert.labels.group === group)
  return { open, told, counts, worstOf, headsOf, failure, reload }
})
