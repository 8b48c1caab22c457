import { describe, expect, it } from 'vitest'
import type { Points } from '@/api/types'
import { beyond, corners, options, type Drawn } from './options'
import { edge, scaleOf } from './scale'

const points = (mean: (number | null)[], over: Partial<Points> = {}): Points => ({
  series: 1,
  at: mean.map((_, i) => 1000 * i),
  mean,
  min: mean.map((v) => (v === null ? null : v - 1)),
  max: mean.map((v) => (v === null ? null : v + 1)),
  spans: [],
  normalLow: mean.map(() => 2),
  normal: mean.map(() => 3),
  normalHigh: mean.map(() => 4),
  normalSince: null,
  ...over,
})
const drawn = (over: Partial<Drawn>) =>
  options({
    points: points([3, 5, null, 9]),
    from: 0,
    to: 4000,
    unit: '%',
    scale: { min: 0, max: 10 },
    limits: [],
    below: false,
    band: true,
    colour: 'blue',
    token: (name) => name,
    hatch: 'hatch',
    grid: { left: 0, right: 0, top: 0, bottom: 0, width: 300 },
    ...over,
  })
const values = (data: ArrayLike<number> = []) =>
  Array.from(data)
    .filter((_, i) => i % 2)
    .map((v) => (Number.isNaN(v) ? null : v))
const series = (of: ReturnType<typeof options>, id: string) =>
  values(of.series.find((one) => one.id === id)?.data)

describe('the options of a chart', () => {
  it('are under the same names each time, without what has nothing to show', () => {
    const ids = (of: ReturnType<typeof options>) => of.series.map((one) => one.id)
    expect(ids(drawn({}))).toEqual(['normal-low', 'normal', 'least', 'spread', 'mean'])
    expect(ids(drawn({ band: false }))).toEqual(['least', 'spread', 'mean'])
    expect(ids(drawn({ points: undefined }))).toEqual(['mean'])
  })

  it('draw several lines as their means alone, the eighth dashed, each with its name', () => {
    const lines = Array.from({ length: 8 }, (_, i) => ({
      name: `n${i}`,
      colour: `c${i}`,
      points: points([i, null, i + 1]),
    }))
    const of = drawn({ lines })
    expect(of.series.map((one) => one.id)).toEqual(['mean', ...lines.map((_, i) => `line ${i}`)])
    expect(series(of, 'mean')).toEqual([])
    expect(series(of, 'line 3')).toEqual([3, null, 4])
    const styles = of.series.slice(1) as unknown as {
      lineStyle: { type: string }
      endLabel: { formatter: string }
    }[]
    expect(styles.map((one) => one.lineStyle.type).lastIndexOf('solid')).toBe(6)
    expect(styles[7]).toMatchObject({
      lineStyle: { type: 'dashed' },
      endLabel: { formatter: 'n7' },
    })
  })

  it('stack the band and the spread on their lower ends', () => {
    const of = points([3, 5, 4, 9], { normalHigh: [4, 4, 4, 7] })
    expect(series(drawn({ points: of }), 'normal-low')).toEqual([2, 2, 2])
    expect(series(drawn({ points: of }), 'normal')).toEqual([2, 2, 5])
    expect(series(drawn({}), 'spread')).toEqual([2, 2, null, 2])
  })

  it('leave out what is on the way between two turns, and what is not there', () => {
    expect(
      corners([
        [1, 1, 1, 2, 2, null, 2],
        [5, 5, 5, 5, 6, 6, 6],
      ]),
    ).toEqual([0, 2, 3, 4, 5, 6])
    expect(corners([[]])).toEqual([])
    const flat = points([3, 3, 3])
    const of = drawn({ points: { ...flat, min: flat.mean, max: flat.mean } })
    expect(series(of, 'spread')).toEqual([])
    expect(series(of, 'warning')).toEqual([])
  })

  it('thicken what its extreme has at or beyond a limit, though its mean has not', () => {
    const limits = [
      { kind: 'warning' as const, value: 6 },
      { kind: 'critical' as const, value: 10 },
    ]
    const of = drawn({ limits })
    expect(series(of, 'warning')).toEqual([null, 6, null, null])
    expect(series(of, 'critical')).toEqual([null, null, null, 10])
    expect(beyond([3, 5, null, 9], true, 5, undefined)).toEqual([3, 5, null, null])
  })

  it('dot a reading that is alone between two gaps, and no other', () => {
    type Dots = { showSymbol: boolean; symbol: (v: unknown, p: { dataIndex: number }) => string }
    const dots = (mean: (number | null)[]) => {
      const of = drawn({ points: points(mean) })
      const { showSymbol, symbol } = of.series.find((one) => one.id === 'mean') as unknown as Dots
      return showSymbol ? mean.map((_, dataIndex) => symbol(null, { dataIndex })) : []
    }
    expect(dots([3, 5, null, 9, 8])).toEqual([])
    expect(dots([3, 5, null, 9])).toEqual(['none', 'none', 'none', 'circle'])
    expect(dots([null, 3, null, 9, 9])).toEqual(['none', 'circle', 'none', 'none', 'none'])
  })

  it('draw no line over a gap, and hatch it', () => {
    const spans = [{ from: 1000, to: 3000, why: 'cut off' }]
    const mean = drawn({ points: points([3, null, 9], { spans }) }).series.find(
      (one) => one.id === 'mean',
    ) as unknown as { data: Float64Array; connectNulls: boolean; markArea: { data: unknown[] } }
    expect(Array.from(mean.data.filter((_, i) => i % 2 === 0))).toEqual([0, 1000, 2000])
    expect(values(mean.data)).toEqual([3, null, 9])
    expect(mean.connectNulls).toBe(false)
    expect(mean.markArea.data).toEqual([[{ xAxis: 1000 }, { xAxis: 3000 }]])
  })
})

describe('the scale of a row', () => {
  it('is round and holds all that is in it', () => {
    const row = [points([10, 43]), points([3, 20])]
    expect(scaleOf(row, true, [], false, '%', 0)).toEqual({ min: 0, max: 50 })
    expect(scaleOf(row, true, [70], false, '%', 0)).toEqual({ min: 0, max: 80 })
    expect(scaleOf([], true, [], false, '%', 0)).toEqual({ min: 0, max: 100 })
  })

  it('moves on by whole pixels', () => {
    expect(edge(10_001, 3000)).toBe(12_000)
    expect(edge(11_999, 3000)).toBe(12_000)
    expect(edge(12_000, 3000)).toBe(12_000)
  })
})
