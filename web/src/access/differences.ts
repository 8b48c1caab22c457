import { clockWithSeconds, dated } from '@/text/format'

/** Fields that hold moments, epoch ms. */
const MOMENT = /^(at|from|to|until|\w+(At|Until))$/

/** What is not the same before and after, field by field. */
export function differences(before: string | null, after: string | null) {
  const was = fields(before)
  const is = fields(after)
  const names = [...new Set([...Object.keys(was), ...Object.keys(is)])]
  return names
    .filter((field) => text(was[field]) !== text(is[field]))
    .map((field) => ({
      field,
      words: inWords(before, after, text(was[field], field), text(is[field], field)),
    }))
}

/** What came or went as a whole is told without an arrow. */
function inWords(before: string | null, after: string | null, was: string, is: string) {
  if (before === null) return is
  if (after === null) return was
  return `${was || '–'} → ${is || '–'}`
}

function fields(json: string | null): Record<string, unknown> {
  if (json === null) return {}
  const told: unknown = JSON.parse(json)
  return told !== null && typeof told === 'object' && !Array.isArray(told)
    ? (told as Record<string, unknown>)
    : { '': told }
}

function text(value: unknown, field = ''): string {
  if (value === undefined || value === null || value === '') return ''
  if (typeof value === 'number' && MOMENT.test(field)) {
    return `${dated(value)} ${clockWithSeconds(value)}`
  }
  return typeof value === 'string' ? value : JSON.stringify(value)
}
