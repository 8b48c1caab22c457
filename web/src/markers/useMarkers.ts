import { createGlobalState } from '@vueuse/core'
import { computed } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { Instance, Marker } from '@/api/types'
import { useGoing } from '@/frame/useGoing'
import { useInstances } from '@/instances/useInstances'
import { onLive } from '@/live/useLive'
import { usePicked } from '@/window/usePicked'

const DAY = 86_400_000
const KEPT = 43 * DAY

/** Signs of the kinds: told apart without colour. */
export const MARKS: Record<string, string> = {
  release: '▲',
  change: '△',
  incident: '✶',
  noise: '≈',
  maintenance: '▭',
  'new normal': '◇',
  holiday: '☉',
  note: '¶',
}

export const isSpan = (marker: Marker) =>
  marker.to !== null ||
  marker.kind === 'incident' ||
  marker.kind === 'noise' ||
  marker.kind === 'maintenance'

function reaches(marker: Marker, instance: Instance) {
  const { level, of } = marker.reach
  if (level === 'site') return of === instance.site
  if (level === 'group') return of === instance.group
  return level === 'all' || of === `${instance.id}`
}

const useAllMarkers = createGlobalState(() => {
  const { answer, again: reload } = useAnswer(
    () => 'markers',
    (_, signal) => {
      const now = Date.now()
      return api.markers(now - KEPT, now + 7 * DAY, signal)
    },
  )
  onLive({ changed: (what) => what === 'markers' && void reload(), missed: () => void reload() })
  const { isGoing } = useGoing()
  const markers = computed(() => (answer.value ?? []).filter((m) => !isGoing(`marker ${m.id}`)))
  return { markers, reload }
})

/** The markers of the last six weeks; of the picked instances where some are picked. */
export function useMarkers() {
  const { markers, reload } = useAllMarkers()
  const { picked } = usePicked()
  const { instances } = useInstances()
  const here = computed(() => {
    const of = instances.value.filter((i) => picked.value.includes(i.id))
    return of.length ? markers.value.filter((m) => of.some((i) => reaches(m, i))) : markers.value
  })
  return { markers, here, reload }
}
