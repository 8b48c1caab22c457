import type { Instance, Points, Series } from '@/api/types'
import type { ChartLine } from '@/chart/lines'
import { labelsOf } from '@/series/labels'
import type { Placed } from './arrangement'

/** So many colours there are; the last one is the first, dashed. */
const COLOURS = 8

/**
 * What is drawn of a chart: one line, or several with their names.
 *
 * @param instances whose
 * @param overlaid several instances lie over each other: their names tell them apart
 */
export function linesOfChart(
  placed: Placed,
  instances: Instance[],
  overlaid: boolean,
  find: (instance: number, key: string) => Series | undefined,
  pointsOf: (series: number) => Points | undefined,
): { series: Series | undefined; several: ChartLine[] | undefined } {
  const keys = [placed.key, ...placed.beside]
  const all = instances.flatMap((instance) =>
    keys.flatMap((key) => find(instance.id, key) ?? []).map((series) => ({ instance, series })),
  )
  const series = all[0]?.series
  if (instances.length === 1 && keys.length === 1) return { series, several: undefined }
  return {
    series,
    several: all.map((line, i) => ({
      series: line.series,
      name: nameOf(line.series, line.instance, overlaid, keys.length > 1),
      colour: (i % COLOURS) + 1,
      points: pointsOf(line.series.id),
    })),
  }
}

function nameOf(series: Series, instance: Instance, overlaid: boolean, counters: boolean) {
  const what = [series.title, labelsOf(series)].filter(Boolean).join(' · ')
  if (!overlaid) return what
  return counters ? `${instance.name} ${what}` : instance.name
}
