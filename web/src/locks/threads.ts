import type { Threads } from '@/api/types'

/** Threads that do the same, with where they are. */
export type AlikeRow = Threads['alike'][number] & { key: string; call: string; calls: string[] }

/** Calls of the JDK that wait or read say little: what called them is what one looks for. */
const OF_THE_JDK = /^(java|javax|jdk|sun|com\.sun)\./

/** The innermost call that is not the JDK's own, else the innermost. */
export function callOf(of: Pick<Threads, 'stacks'>, stack: number): string {
  const calls = of.stacks[stack] ?? []
  return calls.find((call) => !OF_THE_JDK.test(call)) ?? calls[0] ?? 'no call'
}

/** Threads that do the same, as rows. */
export const withPlaces = (of: Threads): AlikeRow[] =>
  of.alike.map((alike) => ({
    ...alike,
    key: `${alike.state} ${alike.kind} ${alike.stack}`,
    call: callOf(of, alike.stack),
    calls: of.stacks[alike.stack] ?? [],
  }))

/** Some names, and how many more there are. */
export function namesOf(names: string[], most = 6): string {
  const more = names.length - most
  return names.slice(0, most).join(', ') + (more > 0 ? ` and ${more} more` : '')
}

/** A class without the packages that it lies in. */
export const classOf = (name: string) => name.slice(name.lastIndexOf('.') + 1)
