import type { Limit, LimitRang } from '@/api/types'

export type Noise = Pick<
  LimitRang,
  'alerts' | 'atNight' | 'inAlert' | 'acknowledged' | 'untilAcknowledged'
> & {
  /** Where it rang most: there it is best tried anew. */
  most?: LimitRang
}

const NONE: Noise = {
  alerts: 0,
  atNight: 0,
  inAlert: 0,
  acknowledged: 0,
  untilAcknowledged: 0,
}

/** What rang, added up by what it is of: looked up for each of thousands of rows. */
export function noiseBy(all: LimitRang[], of: (one: LimitRang) => string) {
  const sums = new Map<string, Noise>()
  for (const one of all) {
    const { most, ...sum } = sums.get(of(one)) ?? NONE
    sums.set(of(one), {
      alerts: sum.alerts + one.alerts,
      atNight: sum.atNight + one.atNight,
      inAlert: sum.inAlert + one.inAlert,
      acknowledged: sum.acknowledged + one.acknowledged,
      untilAcknowledged: sum.untilAcknowledged + one.untilAcknowledged,
      most: most && most.alerts >= one.alerts ? most : one,
    })
  }
  return (key: string) => sums.get(key) ?? NONE
}

export const noiseInWords = ({ alerts, atNight }: Noise) =>
  alerts === 0 ? '–' : atNight ? `${alerts}, ${atNight} at night` : `${alerts}`

/** For which labels it is: a star is for each. */
export const labelsInWords = (labels: Record<string, string>) =>
  Object.entries(labels).map(([name, value]) => (value === '*' ? `each ${name}` : value))

/** What a filter looks through. */
export const wordsOf = (limit: Limit, title: string, scope: string) =>
  [limit.counter, title, limit.condition, scope, ...Object.values(limit.labels)]
    .join(' ')
    .toLowerCase()
