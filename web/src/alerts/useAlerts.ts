import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, inWords } from '@/api/client'
import type { Alert } from '@/api/types'
import { useLive } from '@/live/useLive'
import { number } from '@/text/format'

const open = ref<Alert[]>([])
const failure = ref('')

/** Worse than: critical, warning, silent; settling and not measured keep their severity. */
const RANK: Record<string, number> = { critical: 3, warning: 2, silent: 1 }

/** Critical, warning or silent: what an alert is drawn as. */
export const kindOf = (alert: Alert) =>
  alert.condition === 'silent' ? 'silent' : alert.severity === 'critical' ? 'critical' : 'warning'

export const SIGN: Record<string, string> = { critical: '◆', warning: '◣', silent: '◌' }

export const labelsOf = (of: { labels: Record<string, string> }) =>
  Object.values(of.labels).join(', ')

/** Whether it is about the whole instance: that it is not read, not how one of its counters is. */
export const isOfInstance = (of: { condition: string }) =>
  of.condition === 'silent' || of.condition === 'unreachable'

/** What an alert is about, in a few words. */
export function titleOf(alert: Alert): string {
  if (isOfInstance(alert)) return alert.condition
  const labels = labelsOf(alert)
  const title = labels ? `${alert.title} · ${labels}` : alert.title
  return alert.condition === 'outside' ? `${title}, outside normal` : title
}

export const valueOf = (alert: Alert) =>
  isOfInstance(alert) || alert.value === null ? '' : number(alert.value, alert.unit)

async function reload() {
  try {
    open.value = await api.openAlerts()
    failure.value = ''
  } catch (e) {
    failure.value = inWords(e)
  }
}

let begun = false

/** The open alerts, worst and oldest first; those in maintenance apart. */
export function useAlerts() {
  if (!begun) {
    begun = true
    void reload()
    useLive().listen({
      changed: (what) => what === 'alerts' && void reload(),
      missed: () => void reload(),
    })
    useIntervalFn(reload, 60_000)
  }
  const told = computed(() =>
    open.value
      .filter((alert) => !alert.muted)
      .sort((a, b) => (RANK[kindOf(b)] ?? 0) - (RANK[kindOf(a)] ?? 0) || a.since - b.since),
  )
  const count = (kind: string) => told.value.filter((alert) => kindOf(alert) === kind).length
  const counts = computed(() => ({
    critical: count('critical'),
    warning: count('warning'),
    silent: count('silent'),
  }))
  const worstOf = (instance: number) => told.value.find((alert) => alert.instance === instance)
  return { open, told, counts, worstOf, failure, reload }
}
