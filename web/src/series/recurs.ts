import type { Recurs } from '@/api/types'
import { clock } from '@/text/format'

const EVENING = 20
const MORNING = 6
/** Less often is no habit. */
const LEAST = 2

const HOUR = 3_600_000
const nightsOr = (at: number) => {
  const hour = Number(clock(at).slice(0, 2))
  return hour >= EVENING || hour < MORNING ? 'nights' : 'days'
}

/** "recurs, 9 of 14 nights", or at which other hour it does; empty where it does not. */
export function recursInWords({ looked, days, usual }: Recurs, at: number): string {
  if (days.length >= LEAST) return `recurs, ${days.length} of ${looked} ${nightsOr(at)}`
  if (!usual) return ''
  const { from } = usual
  return `came between ${clock(from)} and ${clock(from + HOUR)} on ${usual.days} of ${usual.looked} ${nightsOr(from)}`
}
