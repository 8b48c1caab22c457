import type { StoreSizes } from '@/api/types'
import { number } from '@/text/format'

/** What the store is made of; what is none of it is the rest, so that all adds up. */
export function partsOf(sizes: StoreSizes) {
  const parts = [
    { words: 'as it was read', bytes: sizes.packed },
    { words: 'steps of a minute', bytes: sizes.minutes },
    { words: 'wider steps', bytes: sizes.coarse },
    { words: 'not packed yet', bytes: sizes.rows },
    { words: 'what is normal', bytes: sizes.normals },
  ]
  const rest = sizes.bytes - parts.reduce((sum, part) => sum + part.bytes, 0)
  return [...parts, { words: 'alerts, facts and all else', bytes: Math.max(0, rest) }]
}

/** By how much it grows, and until when there is room for that. */
export function growthInWords(sizes: StoreSizes): string {
  if (sizes.bytesADay === null) return 'How much comes in a day is told once a whole day is packed.'
  const days = sizes.days === 1 ? 'of one day' : `mean of ${sizes.days} days`
  const grows = `${number(sizes.bytesADay, 'B')} come in a day (${days})`
  if (sizes.free === null) return `${grows}.`
  if (sizes.fullInDays === null)
    return `${grows}; there is room for it: by and by as much goes as comes.`
  const left = sizes.fullInDays
  return left < 3650
    ? `${grows}: at that rate the disk is full in ${Math.floor(left)} days.`
    : `${grows}: at that rate the disk is full in more than ten years.`
}
