import type { Alert } from '@/api/types'
import { COUNTS, isOfInstance, isOnAxis, numberOf } from '@/limits/limits'
import { labelsOf } from '@/series/labels'
import { clock, day, momentInWords, number, range, since, span } from '@/text/format'

/** An alert in words. */

/** Worse than: critical, warning, silent; settling and not measured keep their severity. */
const RANK: Record<string, number> = { critical: 3, warning: 2, silent: 1 }

/** Critical, warning or silent: what an alert is drawn as. */
export const kindOf = (alert: Alert) =>
  alert.condition === 'silent' ? 'silent' : alert.severity === 'critical' ? 'critical' : 'warning'

export const SIGN: Record<string, string> = { critical: '◆', warning: '◣', silent: '◌' }

/** What is known comes last, then what is passing, however bad it was; then the worst; then what is open for longer. */
export const worstFirst = (a: Alert, b: Alert) => worse(a, b) || a.since - b.since

const worse = (a: Alert, b: Alert) =>
  Number(a.known) - Number(b.known) ||
  Number(isPassing(a)) - Number(isPassing(b)) ||
  (RANK[kindOf(b)] ?? 0) - (RANK[kindOf(a)] ?? 0)

/** Of what belongs together and is as bad, what others of it use comes first: it may be why. */
export function usedFirst(alerts: Alert[], usesOf: (name: string) => string[]): Alert[] {
  const used = new Set(alerts.flatMap((a) => usesOf(a.subject)))
  const isUsed = (a: Alert) => Number(used.has(a.subject))
  return [...alerts].sort((a, b) => worse(a, b) || isUsed(b) - isUsed(a) || a.since - b.since)
}

export const isPassing = (alert: Alert) => alert.state === 'settling' || alert.ended !== null

/** Whether it is about a group or a site whose heads are counted. */
export const isOfHeads = (alert: Alert) => alert.subject !== alert.instanceName

const nameOf = (alert: Alert) => [alert.title, labelsOf(alert)].filter(Boolean).join(' · ')

/** What is wrong where the number itself does not say it. */
const SAYS: Record<string, string> = {
  outside: 'outside normal',
  overdue: 'did not happen',
  reaches: 'will reach its limit',
}

/** What an alert is about, in a few words. */
export function titleOf(alert: Alert): string {
  if (isOfHeads(alert)) return alert.standing || alert.title.toLowerCase()
  if (isOfInstance(alert)) return alert.condition
  const what = SAYS[alert.condition]
  return what ? `${nameOf(alert)}, ${what}` : nameOf(alert)
}

/** As it was judged last; of one that is over, the worst. */
export function valueOf(alert: Alert) {
  const value = alert.ended === null ? alert.value : (alert.worst ?? alert.value)
  if (isOfInstance(alert) || isOfHeads(alert) || value === null || value === undefined) return ''
  if (alert.condition === 'overdue') return `${Math.round(value)} min late`
  return alert.condition === 'reaches' ? `in ${Math.round(value)} days` : number(value, alert.unit)
}

/** What was judged: of what is outside its normal the value itself. */
export const judgedInWords = (a: Alert, value: number | null) =>
  value === null
    ? '—'
    : isOfInstance(a)
      ? `${numberOf(a.condition, value, '')} without a reading`
      : isOnAxis(a) || a.condition === 'outside'
        ? number(value, a.unit)
        : numberOf(a.condition, Math.round(value), a.unit)

const isPassed = (state: string) => state === 'warning' || state === 'critical'

/** The number that matters: of one that is over, the one that it passed last. */
const numberThatMatters = (a: Alert) =>
  a.ended === null
    ? a.number
    : (a.transitions?.filter((t) => isPassed(t.to)).at(-1)?.number ?? a.number)

/** Whether it is read at all has no normal. */
export function normalOf(a: Alert): string {
  if (isOfInstance(a) || isOfHeads(a) || (a.condition !== 'outside' && COUNTS[a.condition]))
    return ''
  return a.normalLow === null || a.normalHigh === null
    ? 'no normal yet'
    : `normal ${range(a.normalLow, a.normalHigh, a.unit)}`
}

/** The number it passed; while it settles, the one beyond which it is calm again. */
export function limitOf(a: Alert): string {
  const n = numberThatMatters(a)
  if (n === null || isOfHeads(a)) return ''
  const what = a.state === 'settling' ? 'clear' : 'limit'
  return `${what} ${a.condition === 'below' ? 'below ' : ''}${numberOf(a.condition, n, a.unit)}`
}

/** When it was, or since when it is: with the day where that is not today. */
export function whenOf(a: Alert, now: number): string {
  if (a.ended === null) return since(a.since, now)
  const from = day(a.since) === day(now) ? clock(a.since) : `${day(a.since)} ${clock(a.since)}`
  const to = day(a.ended) === day(a.since) ? clock(a.ended) : `${day(a.ended)} ${clock(a.ended)}`
  return `${from} – ${to} (${span(a.ended - a.since)})`
}

/** What stands above alerts that belong together: since when, and of whom. */
export function bundleInWords(alerts: Alert[], now: number): string {
  const names = [...new Set(alerts.map((a) => a.subject))]
  const first = Math.min(...alerts.map((a) => a.since))
  const more = names.length > 2 ? ` and ${names.length - 2} more` : ''
  return `together, ${since(first, now)}: ${names.slice(0, 2).join(', ')}${more}`
}

/** One sentence, fit to be read out on the telephone. */
export function sentenceOf(a: Alert, now: number): string {
  const is = a.ended === null ? 'is' : 'was'
  const said = [valueOf(a) || 'not measured', SAYS[a.condition]].filter(Boolean).join(', ')
  const what = isOfInstance(a)
    ? `${a.instanceName} ${is} ${a.condition}`
    : isOfHeads(a)
      ? `${a.subject}: ${titleOf(a)}`
      : `${nameOf(a)} of ${a.instanceName} ${is} ${said}`
  const facts = [normalOf(a), limitOf(a)].filter(Boolean).join(', ')
  const state = a.state === 'settling' ? ', settling' : ''
  return `${what}${facts ? ` (${facts})` : ''}${state}, ${whenOf(a, now)}.`
}

export function acknowledgedOf(a: Alert, now: number): string {
  if (!a.acknowledged) return 'not acknowledged'
  const { at, note, until, evenIfWorse } = a.acknowledged
  const said = note ? `: ${note}` : ''
  if (!a.known) return `acknowledged ${momentInWords(at, now)}${said}`
  const worse = evenIfWorse ? '' : ' or until it gets worse'
  return `known until ${momentInWords(until, now)}${worse}${said}`
}
