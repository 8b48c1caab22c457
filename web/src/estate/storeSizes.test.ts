import { describe, expect, it } from 'vitest'
import type { StoreSizes } from '@/api/types'
import { growthInWords, partsOf } from './storeSizes'

const MIB = 1024 * 1024
const sizes: StoreSizes = {
  measuredAt: 0,
  bytes: 100 * MIB,
  rows: 10 * MIB,
  packed: 40 * MIB,
  minutes: 20 * MIB,
  coarse: 5 * MIB,
  normals: 5 * MIB,
  free: 1000 * MIB,
  journal: 0,
  behind: 0,
  setAside: 0,
  packedUntil: null,
  days: 7,
  bytesADay: 2 * MIB,
  fullInDays: 501.7,
  classes: [],
  instances: [],
}

describe('what is said of the store', () => {
  it('adds up to the whole', () => {
    const parts = partsOf(sizes)
    expect(parts.reduce((sum, part) => sum + part.bytes, 0)).toBe(sizes.bytes)
    expect(parts.at(-1)?.bytes).toBe(20 * MIB)
  })
  it('tells when the disk is full, rounded to the safe side', () => {
    expect(growthInWords(sizes)).toBe(
      '2.00 MiB come in a day (mean of 7 days): at that rate the disk is full in 501 days.',
    )
    expect(growthInWords({ ...sizes, fullInDays: 40_000 })).toContain('more than ten years')
  })
  it('tells never apart from not known', () => {
    expect(growthInWords({ ...sizes, fullInDays: null })).toContain('as much goes as comes')
    expect(growthInWords({ ...sizes, fullInDays: null, free: null })).toBe(
      '2.00 MiB come in a day (mean of 7 days).',
    )
    expect(growthInWords({ ...sizes, bytesADay: null, days: 0 })).toContain('once a whole day')
  })
})
