import { computed, ref } from 'vue'
import type { Instance } from '@/api/types'
import { kindOf, SIGN, titleOf, valueOf } from '@/alerts/alert'
import { useAlerts } from '@/alerts/useAlerts'
import { useGroups } from '@/groups/useGroups'
import { isOwn } from '@/instances/kinds'
import { useInstances } from '@/instances/useInstances'
import { number, range } from '@/text/format'

/** How an instance stands: silent, critical, warning, or calm. */
export type Standing = { kind: string; sign: string; fact: string }
export type Placed = { instance: Instance; standing: Standing }
/** How many of a group are read, of how many there should be. */
export type Group = {
  name: string
  members: Placed[]
  calm: boolean
  reading: number
  expected: number
}
export type Site = { name: string; groups: Group[]; reading: number; total: number }

const RANK: Record<string, number> = { critical: 3, warning: 2, silent: 1, calm: 0 }

export const isPaused = (instance: Instance) => instance.state.state === 'paused'
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

/** The fact that stands beside a name; in a narrow place without the counter's title. */
export function factOf(instance: Instance, narrow = false): string {
  if (isSilent(instance)) return instance.state.reason
  if (isPaused(instance)) return 'paused'
  if (instance.state.restart) return '↻ restart due'
  const fact = instance.state.facts[0]
  if (!fact) return 'first reading …'
  const value = number(fact.value, fact.unit)
  return narrow ? value : `${fact.title.toLowerCase()} ${value}`
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
      return { kind: 'calm', sign: '', fact: factOf(instance, true) }
    }
    const normal =
      alert.normalLow === null || alert.normalHigh === null
        ? ''
        : ` · normal ${range(alert.normalLow, alert.normalHigh, alert.unit)}`
    return {
      kind: kindOf(alert),
      sign: SIGN[kindOf(alert)] ?? '',
      fact: `${alert.state === 'settling' ? 'settling: ' : ''}${valueOf(alert)} ${titleOf(alert).toLowerCase()}${normal}${due}`,
    }
  }

  const sites = computed<Site[]>(() => {
    const found = new Map<string, Map<string, Placed[]>>()
    for (const instance of instances.value) {
      const groups = found.get(instance.site) ?? new Map<string, Placed[]>()
      found.set(instance.site, groups)
      groups.set(instance.group, [
        ...(groups.get(instance.group) ?? []),
        { instance, standing: standing(instance) },
      ])
    }
    const own = (site: Site) =>
      Number(site.groups.every((g) => g.members.every((p) => isOwn(p.instance))))
    const name = (a: { name: string }, b: { name: string }) => a.name.localeCompare(b.name)
    const rank = (p: Placed) => RANK[p.standing.kind] ?? 0
    const worst = (members: Placed[]) => Math.max(...members.map(rank))
    return [...found]
      .map(([site, groups]) => {
        const list = [...groups].map(([group, members]) => ({
          name: group,
          members: members.sort(
            (a, b) => (byName.value ? 0 : rank(b) - rank(a)) || name(a.instance, b.instance),
          ),
          // what waits for a restart or is paused stays in sight until that is over
          calm:
            worst(members) === 0 &&
            members.every((p) => !p.instance.state.restart && !isPaused(p.instance)),
          reading: members.filter((p) => p.instance.state.state === 'reading').length,
          expected: expected(group, site) ?? members.filter((p) => !isPaused(p.instance)).length,
        }))
        list.sort((a, b) => (byName.value ? 0 : worst(b.members) - worst(a.members)) || name(a, b))
        return {
          name: site,
          groups: list,
          reading: list.reduce((sum, group) => sum + group.reading, 0),
          total: list.reduce((sum, group) => sum + group.expected, 0),
        }
      })
      .sort((a, b) => own(a) - own(b) || name(a, b))
  })
  const order = computed(() =>
    sites.value.flatMap((site) =>
      site.groups.flatMap((group) => group.members.map((p) => p.instance)),
    ),
  )
  return { sites, order, byName }
}
