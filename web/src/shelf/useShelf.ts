import { computed, ref } from 'vue'
import type { Instance } from '@/api/types'
import { kindOf, SIGN, titleOf, valueOf } from '@/alerts/alert'
import { useAlerts } from '@/alerts/useAlerts'
import { useGroups } from '@/groups/useGroups'
import { useInstances } from '@/instances/useInstances'
import { departure } from '@/series/told'
import { number, range } from '@/text/format'
import { bySite, isPaused, type Site, type Standing } from './order'

/** How many are not read, by how that is, in words; empty for none. */
export function unreadInWords(instances: Instance[]) {
  const of = (state: string) => instances.filter((i) => i.state.state === state).length
  const words: [string, string][] = [
    ['silent', 'silent'],
    ['unreachable', 'unreachable'],
    ['failing', 'not read'],
  ]
  return words
    .filter(([state]) => of(state))
    .map(([state, word]) => `${of(state)} ${word}`)
    .join(', ')
}
/** Nothing is known of it now: it does not answer, refuses, or what it answers can't be read or is not kept. */
export const isSilent = (instance: Pick<Instance, 'state'>) =>
  ['silent', 'unreachable', 'failing'].includes(instance.state.state)

/** The fact that stands beside a name: of what, and what it is. */
export function factParts(instance: Instance): { of: string; value: string } {
  const words = (value: string) => ({ of: '', value })
  if (isSilent(instance)) return words(instance.state.reason)
  if (isPaused(instance)) return words('paused')
  if (instance.state.restart) return words('↻ restart due')
  const fact = instance.state.facts[0]
  if (!fact) return words('first reading …')
  return { of: fact.title.toLowerCase(), value: number(fact.value, fact.unit) }
}

export function factOf(instance: Instance): string {
  const { of, value } = factParts(instance)
  return of ? `${of} ${value}` : value
}

/** Within a sentence; names of pools and databases keep their own spelling. */
const lowered = (title: string) => title.charAt(0).toLowerCase() + title.slice(1)

/** What is outside its normal though no limit is passed; never in the colour of an alert. */
export function outsideOf(instance: Instance): Standing | undefined {
  const { outside } = instance.state
  if (!outside || isPaused(instance) || instance.state.restart) return undefined
  const { title, value, unit, distance, low, high } = outside
  return {
    kind: 'outside',
    sign: departure(distance),
    fact: `${number(value, unit)} ${lowered(title)} · normal ${range(low, high, unit)}`,
  }
}

const byName = ref(false)

/** The instances by site and group; those that depart from calm first, unless sorted by name. */
export function useShelf() {
  const { instances } = useInstances()
  const { worstOf } = useAlerts()
  const { expected } = useGroups()

  function standing(instance: Instance): Standing {
    const alert = worstOf(instance.id)
    if (isSilent(instance)) {
      const kind = alert?.condition === 'unreachable' ? kindOf(alert) : 'silent'
      return { kind, sign: SIGN[kind] ?? '', fact: instance.state.reason }
    }
    const due = instance.state.restart ? ' · ↻ restart due' : ''
    if (!alert || kindOf(alert) === 'silent') {
      return outsideOf(instance) ?? { kind: 'calm', sign: '', fact: factOf(instance) }
    }
    const normal =
      alert.normalLow === null || alert.normalHigh === null
        ? ''
        : ` · normal ${range(alert.normalLow, alert.normalHigh, alert.unit)}`
    return {
      kind: kindOf(alert),
      sign: SIGN[kindOf(alert)] ?? '',
      fact: `${alert.state === 'settling' ? 'settling: ' : ''}${valueOf(alert)} ${lowered(titleOf(alert))}${normal}${due}`,
    }
  }

  const sites = computed<Site[]>(() =>
    bySite(
      instances.value.map((instance) => ({ instance, standing: standing(instance) })),
      expected,
      byName.value,
    ),
  )
  const order = computed(() =>
    sites.value.flatMap((site) =>
      site.groups.flatMap((group) => group.members.map((p) => p.instance)),
    ),
  )
  return { sites, order, byName }
}
