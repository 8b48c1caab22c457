import type { Leak } from '@/api/types'
import { many, plain } from '@/text/format'

/** Whether there is a leak, in words; refused in words where the days do not carry it. */
const DAY = 24

const long = (hours: number) =>
  hours < 2 * DAY ? `${Math.round(hours)} h` : `${Math.round(hours / DAY)} days`

export function leakInWords(leak: Leak): string {
  if (leak.verdict === 'not_known') return 'No floor is read of it: nothing can be said of a leak.'
  if (leak.verdict === 'too_few_days')
    return `Leak: not to be said yet. It takes three whole days after the day of the start; there ${leak.days === 1 ? 'is' : 'are'} ${many(leak.days, 'day')}.`
  if (leak.verdict === 'none')
    return `No leak: over ${many(leak.days, 'day')} the floor does not climb day by day.`
  const wall =
    leak.hoursLeast === null
      ? ''
      : leak.hoursMost === null
        ? ` At that pace it is full in ${long(leak.hoursLeast)} at the earliest.`
        : long(leak.hoursLeast) === long(leak.hoursMost)
          ? ` At that pace it is full in ${long(leak.hoursLeast)}.`
          : ` At that pace it is full in ${long(leak.hoursLeast)} to ${long(leak.hoursMost)}.`
  return `A leak: for ${many(leak.days, 'day')} the floor has climbed by ${plain(leak.perDay ?? 0, '%')} of the maximum a day.${wall}`
}
