import { createGlobalState, useIntervalFn } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Alert } from '@/api/types'
import { kindOf, titleOf } from '@/alerts/alert'
import { useAlerts } from '@/alerts/useAlerts'
import { onLive } from '@/live/useLive'
import { clock as clockOf, day, span, windowInWords } from '@/text/format'
import { usePicked } from '@/window/usePicked'
import { useLink } from '@/window/useLink'
import { standing } from '@/window/useWindow'
import { merged } from './rail'
import { useReach } from './useReach'

const AGAIN_MS = 10 * 60_000
const BESIDE_MS = 60_000
/** A pixel of the last hour is more than that. */
const MOVES_MS = 10_000

const usePast = createGlobalState(() => {
  const { reach } = useReach()
  const { answer, again } = useAnswer(
    () => 'past',
    (_, signal) => {
      const now = Date.now()
      return api.alerts(now - reach.value, now, signal)
    },
    { instead: () => reach.value },
  )
  onLive({ changed: (what) => what === 'alerts' && void again(), missed: () => void again() })
  useIntervalFn(again, AGAIN_MS)
  return computed(() => answer.value ?? [])
})

/** So much of the rail at least is between two bars. */
const GAP = 0.005

const inWords = (alert: Alert, now: number) =>
  `${kindOf(alert)}: ${alert.subject} ${titleOf(alert)}, ${day(alert.since)} ${clockOf(alert.since)}, ${span((alert.ended ?? now) - alert.since)}`

/** The alerts of the rail's weeks as bars: of the picked instances, else of all. */
export function useRailAlerts(clock: Ref<number>) {
  // some thousand alerts are not placed anew each second
  const now = computed(() => Math.ceil(clock.value / MOVES_MS) * MOVES_MS)
  const past = usePast()
  const { reach } = useReach()
  const { picked } = usePicked()
  const { open } = useAlerts()
  const { link } = useLink()
  const back = computed(
    () => new Set(open.value.filter((a) => a.quiet || a.known).map((a) => a.id)),
  )
  const bars = computed(() =>
    merged(
      past.value
        .filter((a) => picked.value.length === 0 || picked.value.includes(a.instance))
        .filter((a) => !a.quiet && !back.value.has(a.id))
        .map((of) => ({ kind: kindOf(of), from: of.since, to: of.ended ?? now.value, of })),
      now.value,
      GAP,
      reach.value,
    ).map((bar) => {
      const [first] = bar.all
      const one = bar.all.length === 1 ? first : undefined
      return {
        ...bar,
        id: `${bar.kind} ${first?.id}`,
        words: one
          ? inWords(one, now.value)
          : `${bar.kind}: ${bar.all.length} alerts, ${windowInWords(bar.from, bar.to)}`,
        to: link('/alerts', {
          state: 'all',
          ...(one ? { id: one.id } : standing(bar.from - BESIDE_MS, bar.to + BESIDE_MS)),
        }),
      }
    }),
  )
  return { bars }
}
