import type { Instance } from '@/api/types'
import { isOwn } from '@/instances/kinds'
import { grouped } from '@/text/grouped'

/** How an instance stands: silent, critical, warning, outside its normal, or calm. */
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

const RANK: Record<string, number> = { critical: 4, warning: 3, silent: 2, outside: 1, calm: 0 }
/** gate-2 comes before gate-10. */
const NAMES = new Intl.Collator('en', { numeric: true })
const name = (a: { name: string }, b: { name: string }) => NAMES.compare(a.name, b.name)
const rank = (p: Placed) => RANK[p.standing.kind] ?? 0
const worst = (members: Placed[]) => Math.max(...members.map(rank))

export const isPaused = (instance: Instance) => instance.state.state === 'paused'

/**
 * The instances by site and group, Jam Jar's own site last.
 *
 * @param expected how many of a group there should be at a site; undefined where nobody has said
 * @param byName by their names; else those that depart from calm first
 */
export function bySite(
  all: Placed[],
  expected: (group: string, site: string) => number | undefined,
  byName: boolean,
): Site[] {
  const own = (site: Site) =>
    Number(site.groups.every((g) => g.members.every((p) => isOwn(p.instance))))
  return grouped(all, (p) => p.instance.site)
    .map(([site, here]) => {
      const groups = grouped(here, (p) => p.instance.group).map(([group, members]) => ({
        name: group,
        members: members.sort(
          (a, b) => (byName ? 0 : rank(b) - rank(a)) || name(a.instance, b.instance),
        ),
        // what waits for a restart or is paused stays in sight until that is over
        calm:
          worst(members) === 0 &&
          members.every((p) => !p.instance.state.restart && !isPaused(p.instance)),
        reading: members.filter((p) => p.instance.state.state === 'reading').length,
        expected: expected(group, site) ?? members.filter((p) => !isPaused(p.instance)).length,
      }))
      groups.sort((a, b) => (byName ? 0 : worst(b.members) - worst(a.members)) || name(a, b))
      return {
        name: site,
        groups,
        reading: groups.reduce((sum, group) => sum + group.reading, 0),
        total: groups.reduce((sum, group) => sum + group.expected, 0),
      }
    })
    .sort((a, b) => own(a) - own(b) || name(a, b))
}
