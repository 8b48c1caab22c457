import type { Instance } from '@/api/types'

/** A part of the estate that a scope can be of, as it is stored and as it reads. */
export interface Part {
  value: string
  words: string
}

const reads = (value: string) => value.replace(':', ' ')

/** What a scope is of, to be read; of nothing in particular, all. */
export const scopeInWords = (scope: string[]) => scope.map(reads).join(', ') || 'all instances'

/** Who administers, administers all. */
export const scopeOf = (one: { role: string; scope: string[] }) =>
  one.role === 'administer' ? [] : one.scope

/** The sites, groups and tags of instances, and what is chosen of them already. */
export function partsOf(instances: Instance[], chosen: string[]): Part[] {
  const of = (kind: string, names: string[]) =>
    [...new Set(names)]
      .filter(Boolean)
      .sort()
      .map((name) => `${kind}:${name}`)
  const known = [
    ...of(
      'site',
      instances.map((one) => one.site),
    ),
    ...of(
      'group',
      instances.map((one) => one.group),
    ),
    ...of(
      'tag',
      instances.flatMap((one) => one.tags),
    ),
  ]
  return [...known, ...chosen.filter((one) => !known.includes(one))].map((value) => ({
    value,
    words: reads(value),
  }))
}
