import { createGlobalState, useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { onLive } from '@/live/useLive'
import { kindOf, worstFirst } from './alert'

/** Also without a word that they are not as they were. */
const AGAIN_MS = 60_000

/** The open alerts, worst and oldest first; those in maintenance apart. */
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
  const told = computed(() => open.value.filter((alert) => !alert.muted).sort(worstFirst))
  const count = (kind: string) => told.value.filter((alert) => kindOf(alert) === kind).length
  const counts = computed(() => ({
    critical: count('critical'),
    warning: count('warning'),
    silent: count('silent'),
  }))
  const byInstance = computed(() => {
    const worst = new Map<number, (typeof told.value)[number]>()
    for (const alert of told.value) if (!worst.has(alert.instance)) worst.set(alert.instance, alert)
    return worst
  })
  const worstOf = (instance: number) => byInstance.value.get(instance)
  return { open, told, counts, worstOf, failure, reload }
})
