import type { Limit, LimitRang } from '@/api/types'

export type Noise = Pick<LimitRang, 'alerts' | 'atNight' | 'inAlert'>

const NONE: Noise = { alerts: 0, atNight: 0, inAlert: 0 }

/** What of all that rang is of some, together. */
export const noiseOf = (all: LimitRang[], mine: (one: LimitRang) => boolean): Noise =>
  all.filter(mine).reduce(
    (sum, one) => ({
      alerts: sum.alerts + one.alerts,
      atNight: sum.atNight + one.atNight,
      inAlert: sum.inAlert + one.inAlert,
    }),
    NONE,
  )

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
