import type { Recurs } from '@/api/types'
import { clock } from '@/text/format'

const EVENING = 20
const MORNING = 6
/** Less often is no habit. */
const LEAST = 2

/** "recurs, 9 of 14 nights"; empty where it does not. */
export function recursInWords({ looked, days }: Recurs, at: number): string {
  if (days.length < LEAST) return ''
  const hour = Number(clock(at).slice(0, 2))
  return `recurs, ${days.length} of ${looked} ${hour >= EVENING || hour < MORNING ? 'nights' : 'days'}`
}
