import type { Session } from '@/api/types'
import { grouped as together } from '@/text/grouped'
import { waitsFor } from './words'

/** What sessions of a moment can be put together by. */
export const GROUPS: { key: string; words: string; of: (s: Session) => string }[] = [
  { key: 'user', words: 'user', of: (s) => s.user },
  { key: 'program', words: 'program', of: (s) => s.program },
  { key: 'module', words: 'module', of: (s) => s.module },
  { key: 'state', words: 'state', of: (s) => s.state },
  { key: 'waits', words: 'what it waits for', of: waitsFor },
  { key: 'statement', words: 'statement', of: (s) => s.text },
  { key: 'blocked', words: 'who blocks it', of: (s) => s.blockers.join(', ') },
  { key: 'database', words: 'database', of: (s) => s.database },
  { key: 'client', words: 'client', of: (s) => s.client },
]

export type SessionGroup = {
  name: string
  count: number
  /** Of all that are listed. */
  share: number
  /** The longest of each, ms. */
  waitedMs: number | null
  transactionMs: number | null
}

const longest = (values: (number | null)[]) =>
  values.reduce((most, one) => (one !== null && (most === null || one > most) ? one : most), null)

/** Sessions put together, the most first. */
export function grouped(sessions: Session[], by: string): SessionGroup[] {
  const of = GROUPS.find((group) => group.key === by)?.of
  if (!of) return []
  return together(sessions, of)
    .map(([name, all]) => ({
      name,
      count: all.length,
      share: all.length / sessions.length,
      waitedMs: longest(all.map((s) => s.waitedMs)),
      transactionMs: longest(all.map((s) => s.transactionMs)),
    }))
    .sort((a, b) => b.count - a.count || a.name.localeCompare(b.name))
}
