import type { Points } from '@/api/types'
import { clock, clockWithSeconds, date, onAxis } from '@/text/format'
import type { Line } from './LimitLines.vue'
import type { Ends } from './scale'

/** What a chart is drawn from: nothing of it is looked up. */
export type Drawn = {
  points: Points | undefined
  from: number
  to: number
  unit: string
  scale: Ends
  limits: Line[]
  below: boolean
  band: boolean
  colour: string
  /** A colour of the theme by its name. */
  token: (name: string) => string
  hatch: unknown
  /** Several lines, each with its name at its end: then each is its mean alone. */
  lines?: { name: string; colour: string; points: Points | undefined }[]
  grid: { left: number; right: number; top: number; bottom: number; width: number }
}
type Values = (number | null)[]

const DAYS = 3 * 86_400_000
const MINUTES = 10 * 60_000

const tick = (at: number, width: number) =>
  width > DAYS ? date(at) : width < MINUTES ? clockWithSeconds(at) : clock(at)

/**
 * A single reading between two gaps would draw no line: it gets a dot. No other has one, not even
 * an empty one: each costs time.
 */
function dots(values: Values) {
  const there = (n: number) => values[n] !== null && values[n] !== undefined
  const alone = new Set(
    values.flatMap((_, i) => (there(i) && !there(i - 1) && !there(i + 1) ? [i] : [])),
  )
  return {
    showSymbol: alone.size > 0,
    symbolSize: 4,
    symbol: (_: unknown, p: { dataIndex: number }) => (alone.has(p.dataIndex) ? 'circle' : 'none'),
  }
}

/** The parts of the extremes that are at or beyond a limit but not beyond the next one. */
export function beyond(
  values: Values,
  below: boolean,
  from: number | undefined,
  to: number | undefined,
): Values {
  const worse = (v: number, limit: number) => (below ? v <= limit : v >= limit)
  return values.map((v) =>
    v !== null && from !== undefined && worse(v, from) && (to === undefined || !worse(v, to))
      ? v
      : null,
  )
}

/** Times and values in turn: what is packed is not copied once more. */
function packed(at: number[], values: Values): Float64Array {
  const all = new Float64Array(2 * at.length)
  at.forEach((t, i) => {
    all[2 * i] = t
    all[2 * i + 1] = values[i] ?? NaN
  })
  return all
}

const some = (values: Values) => values.some((v) => v !== null && v !== undefined)

/** The places at which one of several lines turns: what lies on the way between two needs not be drawn. */
export function corners(lines: Values[]): number[] {
  const n = lines[0]?.length ?? 0
  const same = (i: number, j: number) => lines.every((line) => line[i] === line[j])
  return Array.from({ length: n }, (_, i) => i).filter(
    (i) => i === 0 || i === n - 1 || !same(i, i - 1) || !same(i, i + 1),
  )
}

const between = (low: Values, high: Values): Values =>
  high.map((v, i) => (v === null ? null : v - (low[i] ?? v)))

/**
 * All that a chart shows, under the same names each time, so that what changed is merged into what
 * is drawn: band, spread, mean with the gaps, and what is at or beyond a limit. What has nothing to
 * show is left out: each costs time.
 */
export function options(of: Drawn) {
  const { points, scale, token, grid } = of
  const several = of.lines ?? []
  const all = points?.at ?? []
  const mean = points?.mean ?? []
  const low = of.band && !several.length ? (points?.normalLow ?? []) : []
  const high = of.band && !several.length ? (points?.normalHigh ?? []) : []
  const spreads = !several.length && (points?.min ?? []).some((v, i) => v !== points?.max[i])
  const turns = corners([low, high])
  const at = (values: Values) => turns.map((i) => values[i] ?? null)
  const turnsAt = turns.map((i) => all[i] ?? 0)
  const extreme = several.length ? [] : ((of.below ? points?.min : points?.max) ?? [])
  const limit = (kind: Line['kind']) => of.limits.find((l) => l.kind === kind)?.value
  const ink = token('--ink-soft')

  const line = (id: string, values: Values, extra: object, at = all) => ({
    id,
    type: 'line' as const,
    // most of what could be drawn is not there
    data: packed(some(values) ? at : [], values),
    dimensions: ['at', 'value'],
    showSymbol: false,
    connectNulls: false,
    silent: true,
    animation: false,
    ...extra,
  })
  const edge = { color: token('--oat-edge'), width: 1 }
  const normal = { stack: 'normal', stackStrategy: 'all', lineStyle: edge, z: 1 }
  const spread = { lineStyle: { opacity: 0 }, stack: 'spread', stackStrategy: 'all', z: 2 }
  const thick = (id: string, values: Values, colour: string) =>
    line(id, values, {
      lineStyle: { color: colour, width: 3 },
      itemStyle: { color: colour },
      ...dots(values),
      z: 4,
    })

  return {
    animation: false,
    textStyle: { fontFamily: token('--text') },
    grid: {
      left: grid.left,
      right: grid.right,
      top: grid.top,
      bottom: grid.bottom,
      // there is room for the labels: it needs not be measured
      outerBoundsMode: 'none' as const,
    },
    xAxis: {
      type: 'time',
      min: of.from,
      max: of.to,
      splitNumber: Math.max(2, Math.floor(grid.width / 90)),
      axisLine: { show: false },
      axisTick: { show: false },
      axisLabel: {
        color: ink,
        fontSize: 11,
        hideOverlap: true,
        formatter: (t: number) => tick(t, of.to - of.from),
      },
    },
    yAxis: {
      type: 'value',
      min: scale.min,
      max: scale.max,
      interval: (scale.max - scale.min) / 2,
      axisLabel: { color: ink, fontSize: 11, formatter: (v: number) => onAxis(v, of.unit) },
      splitLine: { lineStyle: { color: token('--line') } },
    },
    series: [
      line('normal-low', at(low), normal, turnsAt),
      line(
        'normal',
        at(between(low, high)),
        { ...normal, areaStyle: { color: token('--oat'), opacity: 1 } },
        turnsAt,
      ),
      line('least', spreads ? (points?.min ?? []) : [], spread),
      line('spread', spreads ? between(points?.min ?? [], points?.max ?? []) : [], {
        ...spread,
        areaStyle: { color: of.colour, opacity: 0.18 },
      }),
      line('mean', several.length ? [] : mean, {
        lineStyle: { color: of.colour, width: 1.5 },
        itemStyle: { color: of.colour },
        ...dots(mean),
        z: 3,
        markArea: {
          silent: true,
          itemStyle: { color: of.hatch },
          data: (points?.spans ?? []).map((s) => [{ xAxis: s.from }, { xAxis: s.to }]),
        },
      }),
      thick(
        'warning',
        beyond(extreme, of.below, limit('warning'), limit('critical')),
        token('--apricot'),
      ),
      thick(
        'critical',
        beyond(extreme, of.below, limit('critical'), undefined),
        token('--raspberry'),
      ),
      ...several.map((one, i) =>
        line(
          `line ${i}`,
          one.points?.mean ?? [],
          {
            // the eighth has the first one's colour: it is dashed
            lineStyle: { color: one.colour, width: 1.5, type: i === 7 ? 'dashed' : 'solid' },
            itemStyle: { color: one.colour },
            ...dots(one.points?.mean ?? []),
            endLabel: { show: true, formatter: one.name, color: one.colour, fontSize: 11 },
            labelLayout: { hideOverlap: true },
            z: 3,
          },
          one.points?.at ?? [],
        ),
      ),
    ].filter((one) => one.id === 'mean' || one.data.length),
  }
}
