import type { Message, TellingHours, TellingRule } from '@/api/types'

const KINDS: Record<string, string> = {
  rise: 'that it rose',
  worse: 'that it got worse',
  over: 'that it is over',
  digest: 'with much else at once',
  report: 'with the report of the night',
}
/** Of what somebody was told. */
export const kindInWords = (kind: string) => `was told ${KINDS[kind] ?? kind}`

export function stateInWords({ state, attempts, answer }: Message): string {
  if (state === 'sent') return attempts > 1 ? `sent at attempt ${attempts}` : 'sent'
  if (state === 'failed') return `failed: ${answer}`
  return attempts ? `tried ${attempts} ×, again soon: ${answer}` : 'on its way'
}

const TO: Record<string, string> = { person: '', duty: 'who is ', channel: 'channel ' }
/** Whom a step means. */
export function toInWords(to: string): string {
  const at = to.indexOf(':')
  return `${TO[to.slice(0, at)] ?? ''}${to.slice(at + 1)}`
}

export const CONDITIONS: [string, string][] = [
  ['above', 'above'],
  ['below', 'below'],
  ['outside', 'outside normal'],
  ['overdue', 'did not happen'],
  ['reaches', 'will reach'],
  ['silent', 'silent'],
  ['unreachable', 'unreachable'],
]
export const SEVERITIES: [string, string][] = [
  ['critical', 'critical'],
  ['warning', 'warning'],
]

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
export const DAY_CHOICES: [number, string][] = DAYS.map((day, i) => [i + 1, day])

/** A minute of the day as 07:00, and back; none where it is no time. */
export const asTime = (minute: number) =>
  `${String(Math.floor((minute % 1440) / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
export function fromTime(text: string): number | undefined {
  const found = /^(\d{1,2}):(\d{2})$/.exec(text)
  const minute = found ? Number(found[1]) * 60 + Number(found[2]) : NaN
  return found && Number(found[2]) < 60 && minute < 1440 ? minute : undefined
}

export const isAlways = (hours: TellingHours) =>
  !hours.days.length && hours.from === hours.to && hours.holidays === 'as_any'

export function hoursInWords(hours: TellingHours): string {
  if (isAlways(hours)) return 'at any time'
  const days = hours.days.length
    ? [...hours.days]
        .sort((a, b) => a - b)
        .map((day) => DAYS[day - 1])
        .join(', ')
    : 'every day'
  const time = hours.from === hours.to ? '' : ` ${asTime(hours.from)}–${asTime(hours.to)}`
  const holidays =
    hours.holidays === 'left_out'
      ? ', no holidays'
      : hours.holidays === 'alone'
        ? ', holidays only'
        : ''
  return `${days}${time}${holidays}`
}

/** Which alerts a rule is for. */
export function fitsInWords(rule: TellingRule): string {
  const named = (all: string[], known: [string, string][] = []) =>
    all.map((one) => known.find(([key]) => key === one)?.[1] ?? one).join(', ')
  const parts = [
    named(rule.severities),
    named(rule.conditions, CONDITIONS),
    named(rule.counters),
    rule.sites.length ? `at ${named(rule.sites)}` : '',
    rule.groups.length ? `in ${named(rule.groups)}` : '',
    named(rule.instances),
    rule.tags.length ? `tagged ${named(rule.tags)}` : '',
    isAlways(rule.hours) ? '' : hoursInWords(rule.hours),
  ].filter(Boolean)
  return parts.join(' · ') || 'everything'
}

const URGENCY: Record<string, string> = {
  wake: 'at once',
  morning: 'in the morning',
  nobody: 'not at all',
}
export const URGENCIES = Object.entries(URGENCY)

export function stepsInWords(rule: TellingRule): string {
  if (!rule.steps.length) return 'nobody'
  return rule.steps
    .map((step) => {
      const after = step.afterMinutes
        ? `, where nobody knows of it after ${step.afterMinutes} min`
        : ''
      return `${toInWords(step.to)} ${URGENCY[step.urgency] ?? step.urgency}${after}`
    })
    .join('; ')
}
