import type { Instance } from '@/api/types'

/** A link from one instance to another. */
export type Use = { name: string; through: string; instance?: Instance }

/** What an instance uses; without the other one where that is not under watch. */
export function usesOf(instance: Instance, all: Instance[]): Use[] {
  return instance.uses.map((text) => {
    const equals = text.lastIndexOf('=')
    const name = text.slice(equals + 1).trim()
    const through = equals < 0 ? '' : text.slice(0, equals).trim()
    return { name, through, instance: all.find((other) => other.name === name) }
  })
}

/** One for each instance that is used, with all that leads there. */
export function usedOf(instance: Instance, all: Instance[]): Use[] {
  const by = new Map<string, Use>()
  for (const use of usesOf(instance, all)) {
    const before = by.get(use.name)
    const through = [before?.through, use.through].filter(Boolean).join(', ')
    by.set(use.name, { ...use, through })
  }
  return [...by.values()]
}

/** Who uses it. */
export const usersOf = (instance: Instance, all: Instance[]): Instance[] =>
  all.filter((other) => usesOf(other, all).some((use) => use.instance?.id === instance.id))
