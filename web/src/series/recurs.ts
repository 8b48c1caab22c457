import type { Recurs } from '@/api/types'
import { clock } from '@/text/format'

const EVENING = 20
const MORNING = 6
/** Less often is no habit. */
const LEAST = 2

const DAYS = 14
const nightsOr = (hour: number) => (hour >= EVENING || hour < MORNING ? 'nights' : 'days')
const minute = (of: number) =>
  [Math.floor(of / 60) % 24, of % 60].map((n) => String(n).padStart(2, '0')).join(':')

/** "recurs, 9 of 14 nights", or at which other hour it does; empty where it does not. */
export function recursInWords({ looked, days, usual }: Recurs, at: number): string {
  if (days.length >= LEAST) {
    return `recurs, ${days.length} of ${looked} ${nightsOr(Number(clock(at).slice(0, 2)))}`
  }
  if (!usual) return ''
  const { from } = usual
  return `came between ${minute(from)} and ${minute(from + 60)} on ${usual.days} of ${DAYS} ${nightsOr(from / 60)}`
}
