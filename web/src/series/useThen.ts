import { computed, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { MomentValue, Series } from '@/api/types'
import { useInAddress } from '@/window/useInAddress'
import { useOverWindow } from '@/window/useOverWindow'
import { useShownMoment } from '@/window/useShownMoment'

/** The server tells no more at once. */
const MOST = 5000
/** Figures of a window cost more: what is beyond these shows its value alone. */
const MOST_FIGURES = 1000
const FIGURES_AT_ONCE = 200
const OVER_MS = 10_000

/** Whether a page shows, beside each value, its mean and greatest over the window. */
export const useOver = () => useInAddress('over')

/** A series as it was at a moment. (A module with an export of the name "then" is never imported: it looks like a promise.) */
export const asOf = (series: Series, was: MomentValue | undefined): Series => ({
  ...series,
  value: was?.value ?? null,
  why: !was ? 'not fetched' : was.value === null ? 'nothing then' : '',
  normalLow: was?.normalLow ?? null,
  normalHigh: was?.normalHigh ?? null,
  normal: null,
  distance: null,
})

/**
 * The series as they were at the moment that is looked at: under the pointer or pinned, else at the
 * end of a window that stands still; else as they are now.
 */
export function useThen(now: Ref<Record<number, Series[]>>) {
  const { at, rests } = useShownMoment()
  const ids = () => Object.values(now.value).flatMap((list) => list.map((s) => s.id))

  const { answer, failure } = useAnswer(
    () => 'then',
    async (_, signal) => {
      const [when, series] = [rests.value, ids().slice(0, MOST)]
      if (when === undefined || series.length === 0) return undefined
      const values = await api.moment(series, Math.round(when), signal)
      return { when, by: new Map(values.map((value) => [value.series, value])) }
    },
    { instead: () => (rests.value === undefined ? '' : `${rests.value} ${ids().join()}`) },
  )
  /** Undefined while they are as they are now. */
  const told = computed(() => (at.value === undefined ? undefined : answer.value))
  const over = useOver()
  const { answer: figures, failure: noFigures } = useOverWindow(
    () => (over.value ? ids().slice(0, MOST_FIGURES) : undefined),
    async (series, from, to, signal) => {
      const by = new Map<number, { mean: number | null; greatest: number | null }>()
      for (let i = 0; i < series.length; i += FIGURES_AT_ONCE) {
        const some = await api.figures(series.slice(i, i + FIGURES_AT_ONCE), from, to, signal)
        some.forEach(({ series: id, mean, greatest }) => by.set(id, { mean, greatest }))
      }
      return by
    },
    OVER_MS,
  )
  const lists = computed(() => {
    const was = told.value
    const of = figures.value?.told
    if (!was && !of) return now.value
    return Object.fromEntries(
      Object.entries(now.value).map(([id, list]) => [
        id,
        list.map((series) => ({
          ...(was ? asOf(series, was.by.get(series.id)) : series),
          over: of?.get(series.id),
        })),
      ]),
    )
  })
  return {
    lists,
    failure: computed(() => failure.value || noFigures.value),
    when: computed(() => told.value?.when),
  }
}
