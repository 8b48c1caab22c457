import type { Points } from '@/api/types'

export type Ends = { min: number; max: number }

/** The end of a window that moves on by whole pixels. */
export const edge = (to: number, msPerPixel: number) => Math.ceil(to / msPerPixel) * msPerPixel

/**
 * The ends in which all of these are drawn.
 *
 * @param limits for them room is made where they are near; for all of them while they are edited
 */
export function scaleOf(
  all: Points[],
  band: boolean,
  limits: number[],
  edited: boolean,
  unit: string,
  goodEnd: number,
): Ends {
  const values = all.flatMap((p) => [
    ...p.min,
    ...p.max,
    ...(band ? [...p.normalLow, ...p.normalHigh] : []),
  ])
  const shown = edited ? limits : near(limits, values, goodEnd)
  return ends([...values, ...shown], unit, goodEnd)
}

/** The ends of a value axis: from zero, but a ratio near its good end of 100 does not waste its scale. */
export function ends(values: (number | null)[], unit: string, goodEnd: number): Ends {
  let least = Infinity
  let most = -Infinity
  for (const value of values) {
    if (value === null) continue
    if (value < least) least = value
    if (value > most) most = value
  }
  if (most === -Infinity) return { min: 0, max: unit === '%' ? 100 : 1 }
  if (unit === '%' && goodEnd === 100) {
    const below = Math.max(100 - least, 1) * 1.25
    return { min: Math.max(0, 100 - nice(below)), max: 100 }
  }
  const floor = least < 0 ? -nice(-least) : 0
  if (unit.startsWith('B')) {
    const top = Math.max(most, 1024)
    const step = 1024 ** Math.floor(Math.log(top) / Math.log(1024))
    return { min: floor, max: nice(top / step) * step }
  }
  if (unit === 's' && most >= 300) {
    const step = most >= 7200 ? 3600 : 60
    return { min: floor, max: nice(most / step) * step }
  }
  return { min: floor, max: nice(Math.max(most, LEAST[unit] ?? 1e-9)) }
}

/** A limit within this many times the greatest value shares the scale; one further off only says where it is. */
const NEAR = 5

/** The limits that a scale makes room for: a far one would press the values flat. */
export function near(limits: number[], values: (number | null)[], goodEnd: number): number[] {
  let reach = 0
  for (const v of values) if (v !== null) reach = Math.max(reach, Math.abs(v - goodEnd))
  return limits.filter((limit) => Math.abs(limit - goodEnd) <= reach * NEAR)
}

/** A scale of nothing but zeros still needs an end. */
const LEAST: Record<string, number> = { '': 4, '%': 1, '/s': 0.1, s: 1e-6, 's/s': 1e-6 }

/** The next round number at or above: 1, 2, 4, 5 or 8 times a power of ten. */
export function nice(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  const step = [1, 2, 4, 5, 8, 10].find((s) => value <= s * power * (1 + 1e-9)) ?? 10
  return step * power
}
