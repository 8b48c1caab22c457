import type { BaselineWeek, Work, WorkPart } from '@/api/types'
import { slotsInWords } from '@/baseline/week'

/** How a value came about, as one would write it down to make it again by hand. */

/** As it was told: no unit, nothing rounded away that a person could see. */
export const raw = (value: number) => value.toLocaleString('en', { maximumFractionDigits: 6 })

const seconds = (ms: number) => `${raw(ms / 1000)} s`

/** Where a number comes from: a difference of two that were told, or what is kept of it. */
function term(part: WorkPart): string {
  const { kept, rawBefore, raw: now } = part
  if (kept === null) return '?'
  const counted = now !== null && rawBefore !== null && !part.byEntries && now - rawBefore === kept
  return counted ? `(${raw(now)} − ${raw(rawBefore)})` : raw(kept)
}

/** "(1,234 − 1,200) ÷ 10.001 s = 3.4 /s". */
export function formula(work: Work, unit: string): string {
  const [above, ...below] = work.parts
  if (!above || work.value === null) return ''
  const by = work.factor === 1 ? '' : ` × ${raw(work.factor)}`
  const shown = `${raw(work.value)} ${unit}`.trim()
  if (work.shape === 'level') return by ? `${term(above)}${by} = ${shown}` : shown
  if (work.shape === 'total') return `${term(above)} ÷ ${seconds(work.elapsed)}${by} = ${shown}`
  const sum = below.map(term).join(' + ')
  return `${term(above)} ÷ ${below.length > 1 ? `(${sum})` : sum}${by} = ${shown}`
}

/** What the formula has above and below its line, in words. */
export function madeOf(work: Work): string {
  const [above, ...below] = work.parts.map((part) => part.name)
  if (work.shape === 'level') return 'a level: as it was told'
  if (work.shape === 'total') return 'a total: what it grew by, for each second'
  return `${above} ÷ ${below.length > 1 ? `(${below.join(' + ')})` : below[0]}`
}

/** The quarter-hour of the week whose normal holds at a moment, since when weeks taught it, and which of them did not. */
export function slotOf(week: BaselineWeek, moment: number) {
  const after = week.at.findIndex((at) => at > moment)
  const slot = after < 0 ? week.at.length - 1 : after - 1
  const out = week.weeks.flatMap((one) =>
    one.leftOut
      .filter((left) => left.first <= slot && slot <= left.last)
      .map((left) => ({ monday: one.monday, why: left.why })),
  )
  return { words: slotsInWords(slot, slot), since: week.weeks[0]?.monday ?? 0, out }
}
