import type { Compared, ComparedRow } from '@/api/types'
import { labelsOf } from '@/series/labels'
import { many, number } from '@/text/format'

/** What changed, in words fit for a ticket: no number without what it was, no names of statistics. */

export type Way = 'better' | 'worse' | 'more' | 'less'

/** Better and worse by the direction in which the counter gets worse; where it has none, more and less. */
export function wayOf(row: Pick<ComparedRow, 'shift' | 'worse'>): Way {
  const more = row.shift > 0
  if (row.worse === 'up') return more ? 'worse' : 'better'
  if (row.worse === 'down') return more ? 'better' : 'worse'
  return more ? 'more' : 'less'
}

export const isBeyond = (row: ComparedRow) => row.verdict !== 'within'

export function verdictOf(row: ComparedRow): string {
  if (!isBeyond(row)) return 'within its usual change'
  const far = row.verdict === 'far_beyond' ? 'far beyond' : 'beyond'
  const unknown =
    row.usual === null ? 'its usual change is not known yet' : `${far} its usual change`
  const each =
    row.perWork !== null && Math.abs(row.perWork) < 0.1 ? '; for the work done as before' : ''
  return `${wayOf(row)}, ${unknown}${each}`
}

export const nameOf = (row: ComparedRow) => [row.title, labelsOf(row)].filter(Boolean).join(' · ')

const COUNTS = [
  'none',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
]
const counted = (n: number) => COUNTS[n] ?? `${n}`
const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)
const verb = (n: number) => (n === 1 ? 'is' : 'are')

/** Whether it is held against something else at the same time, not against what it was. */
export const isAtOnce = (told: Compared) => told.before.from === told.after.from

function firstOf(told: Compared, instance: string, first: ComparedRow | undefined): string {
  if (!told.rows.length && !told.same)
    return `${instance} can't be held against ${told.against}: no counter has values in both.`
  if (isAtOnce(told)) {
    return first
      ? `${nameOf(first)} of ${instance} is ${number(first.after, first.unit)}; of ${told.against} it is ${number(first.before, first.unit)}.`
      : `Nothing of ${instance} differs from ${told.against} beyond its usual change.`
  }
  return first
    ? `Against ${told.against}, ${nameOf(first)} of ${instance} went from ${number(first.before, first.unit)} to ${number(first.after, first.unit)}.`
    : `Against ${told.against}, nothing of ${instance} changed beyond its usual change.`
}

/** What can be pasted into a ticket. */
export function sentenceOf(told: Compared, instance: string): string {
  const beyond = told.rows.filter(isBeyond)
  const better = beyond.filter((row) => wayOf(row) === 'better').length
  const worse = beyond.filter((row) => wayOf(row) === 'worse').length
  const other = beyond.length - better - worse
  const as = told.same + told.rows.length - beyond.length
  const all = as + beyond.length
  const alike = isAtOnce(told) ? 'alike' : 'as before'
  const parts = [firstOf(told, instance, beyond[0])]
  if (all) {
    const told = [
      better ? `${counted(better)} ${verb(better)} better` : '',
      worse ? `${counted(worse)} ${verb(worse)} worse` : '',
      other ? `${counted(other)} ${verb(other)} higher or lower` : '',
    ].filter(Boolean)
    const of = `of ${many(all, 'counter')}`
    parts.push(
      told.length
        ? `${capital(told.join(', '))} beyond their usual change, ${as} ${verb(as)} ${alike}, ${of}.`
        : `${capital(counted(as))} ${of} ${verb(as)} ${alike}.`,
    )
  }
  const changed = [
    told.settings.length ? many(told.settings.length, 'setting') : '',
    told.statements.length ? many(told.statements.length, 'statement') : '',
  ].filter(Boolean)
  if (changed.length) parts.push(`${capital(changed.join(' and '))} changed.`)
  return parts.join(' ')
}
