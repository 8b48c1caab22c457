import { describe, expect, it } from 'vitest'
import type { StoreSizes, StoreView } from '@/api/types'
import { goingInWords, growthInWords, keptInWords, partsOf } from './storeSizes'

const MIB = 1024 * 1024
const FREE = 1000 * MIB
const sizes: StoreSizes = {
  measuredAt: 0,
  rows: 10 * MIB,
  packed: 40 * MIB,
  minutes: 20 * MIB,
  coarse: 5 * MIB,
  normals: 5 * MIB,
  days: 7,
  bytesADay: 2 * MIB,
  fullInDays: 501.7,
}
const store: StoreView = {
  bytes: 100 * MIB,
  free: FREE,
  journal: 0,
  behind: 0,
  setAside: 0,
  packedUntil: null,
  sizes,
  measuring: false,
  notMeasured: '',
  classes: [],
  instances: [],
}

describe('what is said of the store', () => {
  it('adds up to the whole', () => {
    const parts = partsOf(store)
    expect(parts.reduce((sum, part) => sum + part.bytes, 0)).toBe(store.bytes)
    expect(parts.at(-1)?.bytes).toBe(20 * MIB)
  })
  it('tells when the disk is full, rounded to the safe side', () => {
    expect(growthInWords(sizes, FREE)).toBe(
      '2.00 MiB come in a day (mean of 7 days): at that rate the disk is full in 501 days.',
    )
    expect(growthInWords({ ...sizes, fullInDays: 40_000 }, FREE)).toContain('more than ten years')
  })
  it('tells never apart from not known', () => {
    expect(growthInWords({ ...sizes, fullInDays: null }, FREE)).toContain('as much goes as comes')
    expect(growthInWords({ ...sizes, fullInDays: null }, null)).toBe(
      '2.00 MiB come in a day (mean of 7 days).',
    )
    expect(growthInWords({ ...sizes, bytesADay: null, days: 0 }, FREE)).toContain(
      'once a whole day',
    )
  })
  it('tells what goes by a change, of each kind from when to when and how much', () => {
    const july = Date.UTC(2026, 6, 1)
    const august = Date.UTC(2026, 7, 1)
    expect(goingInWords([])).toContain('Nothing')
    expect(
      goingInWords([
        { month: july, minutes: false, bytes: 30 * MIB },
        { month: august, minutes: false, bytes: 40 * MIB },
        { month: july, minutes: true, bytes: 5 * MIB },
      ]),
    ).toBe(
      'For good goes what there is of July 2026 to August 2026 as it was read (70.0 MiB)' +
        ' and of July 2026 in steps of a minute (5.00 MiB).',
    )
    expect(keptInWords('short', { readingsDays: 5, minutesDays: null })).toBe(
      'short is kept for 5 days as it was read, for ever in steps of a minute.',
    )
  })
})
