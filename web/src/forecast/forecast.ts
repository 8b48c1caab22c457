import type { Forecast } from '@/api/types'
import { dated, many, plain } from '@/text/format'

/** Whether daily peaks will reach a capacity, in words; refused in words where the days do not carry it. */

/** How much the peaks grow in a day. */
function growth(told: Forecast, unit: string): string {
  const by = told.perDay ?? 0
  const change = plain(Math.abs(by), unit)
  // a hundredth in all these days is nothing
  if (Math.abs(by) * told.days <= Math.abs(told.now ?? 0) / 100) return 'do not grow'
  return by > 0 ? `grow by ${change} a day` : `fall by ${change} a day`
}

export function forecastInWords(told: Forecast, unit: string): string {
  if (told.verdict === 'too_few_days')
    return `Not to be said yet: it takes 14 whole days, there ${told.days === 1 ? 'is' : 'are'} ${told.days}.`
  const peaks = `The peaks of ${many(told.days, 'day')} ${growth(told, unit)}`
  if (told.capacity === null) return `${peaks}. Up to what it may grow is not known: type it.`
  const room = plain(told.capacity, unit)
  if (told.verdict === 'reached') return `${peaks} and have reached ${room}.`
  if (told.verdict === 'not_in_sight' || told.middle === null)
    return `${peaks}: ${room} is not in sight.`
  const end = told.latest === null ? 'or never' : `and ${dated(told.latest)}`
  const range =
    told.soonest === null
      ? `about ${dated(told.middle)}`
      : told.latest !== null && dated(told.soonest) === dated(told.latest)
        ? `about ${dated(told.middle)}`
        : told.latest === null
          ? `${dated(told.soonest)} at the earliest, ${end}`
          : `between ${dated(told.soonest)} ${end}`
  return `${peaks}: ${room} is reached ${range}.`
}
