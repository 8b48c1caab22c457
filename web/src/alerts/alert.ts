import type { Alert } from '@/api/types'
import { labelsOf } from '@/series/labels'
import { clock, day, many, momentInWords, number, plain, range, since, span } from '@/text/format'

/** An alert in words. */

/** Worse than: critical, warning, silent; settling and not measured keep their severity. */
const RANK: Record<string, number> = { critical: 3, warning: 2, silent: 1 }

/** Critical, warning or silent: what an alert is drawn as. */
export const kindOf = (alert: Alert) =>
  alert.condition === 'silent' ? 'silent' : alert.severity === 'critical' ? 'critical' : 'warning'

export const SIGN: Record<string, string> = { critical: '◆', warning: '◣', silent: '◌' }

/** What is passing comes last, however bad it was; then the worst; then what is open for longer. */
export const worstFirst = (a: Alert, b: Alert) =>
  Number(isPassing(a)) - Number(isPassing(b)) ||
  (RANK[kindOf(b)] ?? 0) - (RANK[kindOf(a)] ?? 0) ||
  a.since - b.since

export const isPassing = (alert: Alert) => alert.state === 'settling' || alert.ended !== null

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

/** Whether it is read at all has no normal. */
export function normalOf(a: Alert): string {
  if (isOfInstance(a)) return ''
  return a.normalLow === null || a.normalHigh === null
    ? 'no normal yet'
    : `normal ${range(a.normalLow, a.normalHigh, a.unit)}`
}

/** The number it passed; while it settles, the one beyond which it is calm again. */
export function limitOf(a: Alert): string {
  if (a.number === null) return ''
  const what = a.state === 'settling' ? 'clear' : 'limit'
  if (a.condition === 'outside') return `${what} ${a.number} × its usual spread`
  if (isOfInstance(a)) return `${what} ${many(a.number, 'interval')}`
  return `${what} ${a.condition === 'below' ? 'below ' : ''}${plain(a.number, a.unit)}`
}

/** When it was, or since when it is: with the day where that is not today. */
export function whenOf(a: Alert, now: number): string {
  if (a.ended === null) return since(a.since, now)
  const from = day(a.since) === day(now) ? clock(a.since) : `${day(a.since)} ${clock(a.since)}`
  const to = day(a.ended) === day(a.since) ? clock(a.ended) : `${day(a.ended)} ${clock(a.ended)}`
  return `${from} – ${to} (${span(a.ended - a.since)})`
}

/** One sentence, fit to be read out on the telephone. */
export function sentenceOf(a: Alert, now: number): string {
  const what = isOfInstance(a)
    ? `${a.instanceName} is ${a.condition}`
    : `${titleOf(a)} of ${a.instanceName} is ${valueOf(a) || 'not measured'}`
  const facts = [normalOf(a), limitOf(a)].filter(Boolean).join(', ')
  const state = a.state === 'settling' ? ', settling' : ''
  return `${what}${facts ? ` (${facts})` : ''}${state}, ${whenOf(a, now)}.`
}

export function acknowledgedOf(a: Alert, now: number): string {
  if (!a.acknowledged) return 'not acknowledged'
  const note = a.acknowledged.note ? `: ${a.acknowledged.note}` : ''
  return `acknowledged ${momentInWords(a.acknowledged.at, now)}${note}`
}
