import { useIntervalFn } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import { api } from '@/api/client'
import type { Alert } from '@/api/types'
import { kindOf, titleOf, useAlerts } from '@/alerts/useAlerts'
import { useLive } from '@/live/useLive'
import { clock, day, span } from '@/text/format'
import { usePicked } from '@/window/usePicked'
import { WEEKS } from './rail'

const past = ref<Alert[]>([])
let begun = false

async function load() {
  const now = Date.now()
  past.value = await api.alerts(now - WEEKS, now).catch(() => past.value)
}

/** The alerts of the rail's weeks as bars: of the picked instances, else of all. */
export function useRailAlerts(now: Ref<number>) {
  if (!begun) {
    begun = true
    void load()
    useLive().listen({ changed: (what) => what === 'alerts' && void load(), missed: load })
    useIntervalFn(load, 10 * 60_000)
  }
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
