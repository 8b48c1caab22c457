import { refDebounced } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import { api } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import type { LimitBody, Series, Tried } from '@/api/types'
import { useClock } from '@/window/useClock'

const POINTS = 420
/** While numbers are tried one after the other the end of the past stands still. */
const STANDS_MS = 5 * 60_000
/** Other numbers are tried once the number rests. */
const RESTS_MS = 300

/**
 * What a limit would have told in the past weeks, what other numbers would have, and the past itself.
 *
 * @param props the limit that is being set, undefined until it is known, and the series it is set on
 * @param wanted how many alerts a week are wanted
 */
export function useTrying(
  props: { series: Series; limit: LimitBody | undefined },
  weeks: Ref<number>,
  wanted: Ref<number>,
) {
  const now = useClock()
  // while a line is dragged each answer lands, and then the latest number is asked for
  const asked = ref(0)
  /** Why it is not tried; empty where it is. */
  const cannot = computed(() => {
    if (props.limit?.condition === 'reaches') {
      return 'What will be reached is told by a forecast each night: it cannot be tried on the past.'
    }
    return props.limit?.condition === 'overdue' && props.limit.against === null
      ? 'Say by when it is due each day, and see what it would have told.'
      : ''
  })
  const about = () =>
    props.limit && !cannot.value ? [props.series.id, weeks.value, props.limit.condition] : undefined
  const { answer: tried, failure } = useAnswer(
    about,
    async (_, signal): Promise<Tried | undefined> => {
      if (!props.limit) return undefined
      const before = tried.value?.to ?? 0
      const until = now.value - before < STANDS_MS ? before : null
      return api.tryLimit(
        { limit: props.limit, series: props.series.id, weeks: weeks.value, until },
        signal,
      )
    },
    { follows: () => [JSON.stringify(props.limit), asked.value].join() },
  )
  const rests = refDebounced(
    computed(() =>
      [JSON.stringify(props.limit), wanted.value, tried.value?.to, asked.value].join(),
    ),
    RESTS_MS,
  )
  const { answer: others, failure: untried } = useAnswer(
    about,
    async (_, signal) => {
      const [limit, of, until] = [props.limit, wanted.value, tried.value?.to]
      // the past is read first; then this is asked for
      if (!limit || !until) return undefined
      const body = { limit, series: props.series.id, weeks: weeks.value, until }
      return { numbers: await api.tryNumbers(body, of, signal), wanted: of }
    },
    { instead: () => rests.value },
  )
  const { answer: points } = useAnswer(
    () => tried.value && [props.series.id, tried.value.from, tried.value.to],
    async ([id, from, to], signal) =>
      (await api.points([id as number], from as number, to as number, POINTS, signal))[0],
  )

  /** Something was marked that it is held against. */
  const again = () => asked.value++
  return { tried, failure, cannot, others, untried, points, again }
}
