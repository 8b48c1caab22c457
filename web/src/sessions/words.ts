import type { Session } from '@/api/types'
import { seconds } from '@/text/format'

/** Kinds of wait in words; the engine's own stand beside them. */
const KINDS: Record<string, string> = {
  Lock: 'lock',
  LWLock: 'lock inside the engine',
  IO: 'reads or writes',
  Client: 'its client',
  IPC: 'another process',
  Timeout: 'a time to pass',
  BufferPin: 'a page that others use',
  Extension: 'an extension',
  Activity: 'something to do',
}
export const waitKind = (kind: string) => KINDS[kind] ?? kind

export const age = (ms: number | null) => (ms === null ? '' : seconds(ms / 1000))

/** Who it is, in one line: who signed in, and what they call their program. */
export const whoIs = (s: Session) =>
  [s.user, s.program].filter(Boolean).join(' · ') || `${s.kind} without a name`

/** What it waits for, where it runs something: one that does nothing waits for its client. */
export function waitsFor(s: Session): string {
  if (s.state !== 'active') return ''
  if (s.waitKind === '') return 'no wait reported'
  if (s.waitKind === 'Client') return 'its client'
  return `${waitKind(s.waitKind)}: ${s.waitsFor}`
}

/** By the engine's clock, to the millisecond, as its own functions take it. */
const startedAt = (ms: number) => new Date(ms).toISOString().replace('T', ' ').replace('Z', '+00')

/**
 * The command that ends it, or what it runs. Its number alone may be that of another by now: who
 * began when the one that is meant began is the same.
 */
export function command(s: Session): { what: string; text: string }[] {
  if (s.kind === 'prepared transaction') {
    const gid = s.program.replaceAll("'", "''")
    return [
      { what: 'command that commits it', text: `commit prepared '${gid}';` },
      { what: 'command that undoes it', text: `rollback prepared '${gid}';` },
    ]
  }
  const call = (what: string, name: string) => ({
    what,
    text:
      `select ${name}(pid) from pg_stat_activity\nwhere pid = ${s.pid} and ` +
      `date_trunc('milliseconds', backend_start) = '${startedAt(s.started)}';`,
  })
  return [
    ...(s.state === 'active'
      ? [call('command that cancels its statement', 'pg_cancel_backend')]
      : []),
    call('command that ends the session', 'pg_terminate_backend'),
  ]
}

/** All of it as text, to be taken along. */
export function asText(s: Session, when: string): string {
  const lines: [string, string][] = [
    ['session', `${s.pid}, ${s.kind}, at ${when}`],
    ['user and program', whoIs(s)],
    ['module', s.module],
    ['database', s.database],
    ['client', s.client || "the engine's own machine"],
    ['state', `${s.state}, for ${age(s.stateMs)}`],
    ['waits for', waitsFor(s)],
    ['waiting', s.waitedMs === null ? '' : `${s.atMost ? 'at most ' : ''}${age(s.waitedMs)}`],
    ['blocked by', s.blockers.join(', ')],
    ['in transaction', age(s.transactionMs)],
    ['holds', s.holds.join(', ')],
    [s.last ? 'last statement' : 'statement', s.text],
  ]
  return lines
    .filter(([, value]) => value)
    .map(([name, value]) => `${name}: ${value}`)
    .join('\n')
}
