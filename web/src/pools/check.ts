import type { PoolCheck } from '@/api/types'
import { plain, seconds } from '@/text/format'

/** Whether what a pool has lent out is explained by its work, in words; empty where there is nothing to say. */
export function checkInWords(check: PoolCheck): string {
  const { verdict, inUse, perSecond, hold, expected } = check
  const work =
    perSecond === null || hold === null
      ? ''
      : `${plain(perSecond, '/s')} held for ${seconds(hold)} each`
  const used = inUse === null ? '' : plain(Math.round(inUse * 10) / 10, '')
  const told = expected === null ? '' : plain(Math.round(expected * 10) / 10, '')
  switch (verdict) {
    case 'not_coming_back':
      return `${Math.round(check.notBack)} not coming back: ${work} explain ${told} in use, and ${used} are.`
    case 'held_longer':
      return `Held longer than usual: ${work}${check.holdHigh === null ? '' : `, usually at most ${seconds(check.holdHigh)}`}. What they are lent for is slow.`
    case 'does_not_fit':
      return `Its counts do not fit each other: ${work} would be ${told} in use, and ${used} are.`
    case 'agrees':
      return `${work} explain the ${used} in use: all come back.`
    case 'not_told':
      return 'It does not tell for how long connections are held: whether all come back can’t be said.'
    default:
      return 'Too little was lent in this window to say whether all come back.'
  }
}
