import { describe, expect, it } from 'vitest'
import type { Busy, Session } from '@/api/types'
import { asPoints } from './points'
import { asText, command, waitsFor, whoIs } from './words'

const session = (of: Partial<Session> = {}): Session => ({
  pid: 4377,
  started: Date.UTC(2026, 10, 10, 1, 5, 12, 418),
  kind: 'session',
  user: 'fare_load',
  program: 'reload',
  module: '',
  database: 'bookings',
  client: '',
  state: 'active',
  waitKind: '',
  waitsFor: '',
  statement: 'ab',
  text: 'select ?',
  last: false,
  waitedMs: null,
  atMost: false,
  statementMs: 40,
  transactionMs: 1680000,
  stateMs: 40,
  holds: [],
  workers: 0,
  blockers: [],
  behind: 0,
  ...of,
})

describe('a session in words', () => {
  it('waits for what the engine says, or says that nothing is reported', () => {
    expect(waitsFor(session())).toBe('no wait reported')
    expect(waitsFor(session({ waitKind: 'Lock', waitsFor: 'relation' }))).toBe('lock: relation')
    expect(waitsFor(session({ waitKind: 'Client', waitsFor: 'ClientRead' }))).toBe('its client')
    expect(waitsFor(session({ state: 'idle in transaction', waitKind: 'Client' }))).toBe('')
    expect(whoIs(session())).toBe('fare_load · reload')
    expect(whoIs(session({ user: '', program: '', kind: 'autovacuum' }))).toBe(
      'autovacuum without a name',
    )
  })

  it('is ended by a command that names when it began, too', () => {
    const [cancel, end] = command(session())
    expect(cancel?.text).toContain('pg_cancel_backend(pid)')
    expect(end?.text).toBe(
      'select pg_terminate_backend(pid) from pg_stat_activity\n' +
        "where pid = 4377 and date_trunc('milliseconds', backend_start) = " +
        "'2026-11-10 01:05:12.418+00';",
    )
    // one that does nothing has no statement to cancel
    expect(command(session({ state: 'idle in transaction' }))).toHaveLength(1)
  })

  it('is committed or undone when it is prepared, never ended', () => {
    const prepared = session({ kind: 'prepared transaction', pid: -1, program: "o'pay" })
    expect(command(prepared).map((c) => c.text)).toEqual([
      "commit prepared 'o''pay';",
      "rollback prepared 'o''pay';",
    ])
  })

  it('is taken along as text, with its last statement named so', () => {
    const text = asText(session({ last: true, waitedMs: 1500, atMost: true }), '02:34:35')
    expect(text).toContain('session: 4377, session, at 02:34:35')
    expect(text).toContain('waiting: at most 1.50 s')
    expect(text).toContain('last statement: select ?')
    expect(text).not.toContain('module')
  })
})

describe('sessions over time', () => {
  it('have a gap where samples are missing', () => {
    const busy = { at: [0, 10, 20, 30], stepMs: 10, all: [1, null, null, 2], parts: [] } as Busy
    const points = asPoints(busy, [0.5, null, null, 1])
    expect(points.at).toEqual([5, 15, 25, 35])
    expect(points.mean).toEqual([0.5, null, null, 1])
    expect(points.spans).toEqual([{ from: 10, to: 30, why: 'not sampled' }])
  })
})
