/** Ink by distance from normal: so many spreads fill the row. */
export const FULL = 8
/** What is nearer is noise, and what is farther has left its normal. */
const NEAR = 2
const FAR = 4

export type Ticks = {
  near: string
  off: string
  far: string
  /** Where there is no value. */
  gaps: { from: number; to: number }[]
}

/**
 * How far something was from its normal, step by step, as paths in a box one wide for each step and
 * two high: ticks from the middle, up for above. What has a value but no normal is a dot in the middle.
 */
export function ticksOf(mean: (number | null)[], distance: (number | null)[]): Ticks {
  const parts = { near: '', off: '', far: '' }
  const gaps: Ticks['gaps'] = []
  mean.forEach((value, i) => {
    if (value === null) {
      const last = gaps[gaps.length - 1]
      if (last && last.to === i) last.to = i + 1
      else gaps.push({ from: i, to: i + 1 })
      return
    }
    const d = distance[i] ?? 0
    const size = Math.abs(d)
    const part = size < NEAR ? 'near' : size < FAR ? 'off' : 'far'
    const height = Math.max(0.06, Math.min(1, size / FULL)) * (d < 0 ? -1 : 1)
    parts[part] += `M${i + 0.5} 1V${Math.round((1 - height) * 1000) / 1000}`
  })
  return { ...parts, gaps }
}

/** The step in which it was farthest from its normal, if it was off at all. */
export function farthestOf(distance: (number | null)[]): number | undefined {
  const sizes = distance.map((d) => Math.abs(d ?? 0))
  const most = Math.max(...sizes, 0)
  return most >= FAR ? sizes.indexOf(most) : undefined
}
