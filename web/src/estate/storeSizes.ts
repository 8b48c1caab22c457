import type { GoingMonth, KeepingBody, StoreSizes, StoreView } from '@/api/types'
import { number } from '@/text/format'

/** What the store is made of; what is none of it is the rest, so that all adds up. */
export function partsOf({ bytes, sizes }: StoreView) {
  if (!sizes) return []
  const parts = [
    { words: 'as it was read', bytes: sizes.packed },
    { words: 'steps of a minute', bytes: sizes.minutes },
    { words: 'wider steps', bytes: sizes.coarse },
    { words: 'not packed yet', bytes: sizes.rows },
    { words: 'what is normal', bytes: sizes.normals },
  ]
  const rest = bytes - parts.reduce((sum, part) => sum + part.bytes, 0)
  return [...parts, { words: 'alerts, facts and all else', bytes: Math.max(0, rest) }]
}

/** By how much it grows, and until when there is room for that. */
export function growthInWords(sizes: StoreSizes, free: number | null): string {
  if (sizes.bytesADay === null) return 'How much comes in a day is told once a whole day is packed.'
  const days = sizes.days === 1 ? 'of one day' : `mean of ${sizes.days} days`
  const grows = `${number(sizes.bytesADay, 'B')} come in a day (${days})`
  if (free === null) return `${grows}.`
  if (sizes.fullInDays === null)
    return `${grows}; there is room for it: by and by as much goes as comes.`
  const left = sizes.fullInDays
  return left < 3650
    ? `${grows}: at that rate the disk is full in ${Math.floor(left)} days.`
    : `${grows}: at that rate the disk is full in more than ten years.`
}

/** How long a class is kept. */
export function keptInWords(name: string, { readingsDays, minutesDays }: KeepingBody): string {
  const minutes = minutesDays === null ? 'for ever' : `for ${minutesDays} days`
  return `${name} is kept for ${readingsDays} days as it was read, ${minutes} in steps of a minute.`
}

const month = (at: number) =>
  new Date(at).toLocaleDateString('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' })

/** What goes by a change, oldest first, and how much of it. */
export function goingInWords(months: GoingMonth[]): string {
  if (!months.length) return 'Nothing that is there goes by it now.'
  const kinds = [
    { words: 'as it was read', of: months.filter((one) => !one.minutes) },
    { words: 'in steps of a minute', of: months.filter((one) => one.minutes) },
  ]
  const told = kinds
    .filter(({ of }) => of.length)
    .map(({ words, of }) => {
      const bytes = number(
        of.reduce((sum, one) => sum + one.bytes, 0),
        'B',
      )
      const first = month(of[0]!.month)
      const last = month(of.at(-1)!.month)
      return `${first === last ? first : `${first} to ${last}`} ${words} (${bytes})`
    })
  return `For good goes what there is of ${told.join(' and of ')}.`
}
