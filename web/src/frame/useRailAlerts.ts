import { createGlobalState, useIntervalFn } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { kindOf, titleOf } from '@/alerts/alert'
import { useAlerts } from '@/alerts/useAlerts'
import { onLive } from '@/live/useLive'
import { clock, day, span } from '@/text/format'
import { usePicked } from '@/window/usePicked'
import { WEEKS } from './rail'

const AGAIN_MS = 10 * 60_000

const usePast = createGlobalState(() => {
  const { answer, again } = useAnswer(
    () => 'past',
    (_, signal) => {
      const now = Date.now()
      return api.alerts(now - WEEKS, now, signal)
    },
  )
  onLive({ changed: (what) => what === 'alerts' && void again(), missed: () => void again() })
  useIntervalFn(again, AGAIN_MS)
  return computed(() => answer.value ?? [])
})

/** The alerts of the rail's weeks as bars: of the picked instances, else of all. */
export function useRailAlerts(now: Ref<number>) {
  const past = usePast()
  const { picked } = usePicked()
  const { open } = useAlerts()
  const muted = computed(() => new Set(open.value.filter((a) => a.muted).map((a) => a.id)))
  const bars = computed(() =>
    past.value
      .filter((a) => picked.value.length === 0 || picked.value.includes(a.instance))
      .filter((a) => !muted.value.has(a.id))
      .map((alert) => ({
        alert,
        kind: kindOf(alert),
        words: `${kindOf(alert)}: ${alert.instanceName} ${titleOf(alert)}, ${day(alert.since)} ${clock(alert.since)}, ${span((alert.ended ?? now.value) - alert.since)}`,
      })),
  )
  return { bars }
}
