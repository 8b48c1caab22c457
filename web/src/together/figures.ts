import type { Together, TogetherColumn, TogetherFigure } from '@/api/types'

type Name = 'sum' | 'mean' | 'least' | 'greatest' | 'overMedian'
const NAMES: [Name, string][] = [
  ['sum', 'sum'],
  ['mean', 'mean'],
  ['least', 'least'],
  ['greatest', 'greatest'],
  ['overMedian', 'greatest ÷ middle'],
]

/** What stands under the columns, for all and for each site: what says nothing of any column is left out. */
export const figuresOf = (sums: Together['sums'], columns: TogetherColumn[]) =>
  sums.map(({ site, instances, figures }) => ({
    site,
    instances,
    rows: NAMES.map(([name, words]) => ({
      name: words,
      times: name === 'overMedian',
      values: columns.map((_, c): TogetherFigure[Name] => figures[c]?.[name] ?? null),
    })).filter((row) => row.values.some((value) => value !== null)),
  }))
