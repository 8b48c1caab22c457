import { isOnAxis } from './limits'
import { computed, reactive, ref, watch, type Ref } from 'vue'
import { api, fieldOf, inWords } from '@/api/client'
import type { Hold, Instance, Limit, LimitBody, Series } from '@/api/types'

export type Level = 'instance' | 'group' | 'kind'
type Draft = {
  level: Level
  condition: string
  warning: number | null
  critical: number | null
  m: number
  n: number
  clear: number | null
  seconds: number | null
  /** The minute of the day at which it is due, or the value that will be reached. */
  against: number | null
}

type Numbers = {
  warning: number | null
  critical: number | null
  hold: Hold | null
  clear: number | null
  seconds: number | null
  against: number | null
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
const sameLabels = (a: Record<string, string>, b: Record<string, string>) =>
  JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(b).sort())

/**
 * A limit being set on one series: what is in force to begin with, saved as an act of its own, with undo.
 *
 * @param pointed a number that was pointed at: the warning begins with it
 */
export function useLimitDraft(series: Ref<Series>, instance: Ref<Instance>, pointed?: number) {
  const limits = ref<Limit[]>([])
  const failure = ref('')
  const fault = ref('')
  const saving = ref(false)
  const undo = ref<() => Promise<unknown>>()
  const draft = reactive<Draft>({
    level: 'instance',
    condition: 'above',
    warning: null,
    critical: null,
    m: 3,
    n: 3,
    clear: null,
    seconds: null,
    against: null,
  })

  const inForce = computed(() => series.value.limits.find((l) => l.condition === draft.condition))
  const scopeOf = (level: Level) =>
    level === 'instance'
      ? `${instance.value.id}`
      : level === 'group'
        ? instance.value.group
        : instance.value.kind
  const setAt = (level: Level) =>
    limits.value.find(
      (l) =>
        l.counter === series.value.counter &&
        l.condition === draft.condition &&
        l.scope.level === level &&
        l.scope.of === scopeOf(level) &&
        sameLabels(l.labels, series.value.labels),
    )
  /** The limit that is set at the chosen reach already. */
  const mine = computed(() => setAt(draft.level))

  const LEVELS: Level[] = ['instance', 'group', 'kind']
  /** What limits set from a reach on upward, number by number: the nearest wins. */
  function from(first: number): Numbers {
    const set = LEVELS.slice(first).flatMap((level) => setAt(level) ?? [])
    const nearest = <T>(of: (limit: Limit) => T | null | undefined) =>
      set.map(of).find((value) => value !== null && value !== undefined) ?? null
    return {
      warning: nearest((l) => l.warning),
      critical: nearest((l) => l.critical),
      hold: nearest((l) => l.hold),
      clear: nearest((l) => l.clear?.number),
      seconds: nearest((l) => l.clear?.seconds),
      against: nearest((l) => l.against),
    }
  }
  const above = computed(() => from(LEVELS.indexOf(draft.level) + 1))

  /** With the numbers of the chosen reach; where there are none, with what is in force. */
  function begin() {
    const here = from(LEVELS.indexOf(draft.level))
    const limit = inForce.value
    const wide = draft.level !== 'instance' && (here.warning ?? here.critical) !== null
    draft.warning = wide ? here.warning : (limit?.warning ?? null)
    draft.critical = wide ? here.critical : (limit?.critical ?? null)
    draft.against = wide ? here.against : (limit?.against ?? null)
    const usual = draft.condition === 'overdue' ? 1 : 3
    const hold = (wide ? here.hold : limit?.hold) ?? { m: usual, n: usual }
    draft.m = hold.m
    draft.n = hold.n
    draft.clear = wide ? here.clear : (limit?.clear ?? null)
    draft.seconds = wide ? here.seconds : (limit?.clearSeconds ?? null)
  }

  async function load() {
    try {
      limits.value = await api.limits()
    } catch (e) {
      told(e)
    }
  }

  function told(e: unknown) {
    failure.value = inWords(e)
    fault.value = fieldOf(e)
  }

  /** What is as it is inherited stays inherited; of one that is there already, what is not shown stays. */
  function body(): LimitBody {
    const before = mine.value
    const up = above.value
    const own = <T>(value: T | null, inherited: T | null, had: T | null | undefined) =>
      had === null || had === undefined ? (same(value, inherited) ? null : value) : value
    return {
      counter: series.value.counter,
      labels: series.value.labels,
      scope: { level: draft.level, of: scopeOf(draft.level) },
      condition: draft.condition,
      warning: own(draft.warning, up.warning, before?.warning),
      critical: own(draft.critical, up.critical, before?.critical),
      hold: own({ m: draft.m, n: draft.n }, up.hold, before?.hold),
      criticalHold: before?.criticalHold ?? null,
      clear: {
        number: own(draft.clear, up.clear, before?.clear?.number),
        seconds: own(draft.seconds, up.seconds, before?.clear?.seconds),
      },
      criticalClear: before?.criticalClear ?? null,
      against: own(draft.against, up.against, before?.against),
      on: true,
      offReason: '',
      offUntil: null,
    }
  }

  /** As it would be in force: with the numbers that stand in the fields, inherited or not. */
  const whole = (): LimitBody => ({
    ...body(),
    warning: draft.warning,
    critical: draft.critical,
    hold: { m: draft.m, n: draft.n },
    clear: { number: draft.clear, seconds: draft.seconds },
    against: draft.against,
  })

  async function attempt(act: () => Promise<unknown>): Promise<boolean> {
    failure.value = ''
    fault.value = ''
    saving.value = true
    try {
      await act()
      await load()
      return true
    } catch (e) {
      told(e)
      return false
    } finally {
      saving.value = false
    }
  }

  function save() {
    const before = mine.value
    return attempt(async () => {
      if (before) {
        await api.changeLimit(before.id, body())
        undo.value = () => api.changeLimit(before.id, before)
      } else {
        const added = await api.addLimit(body())
        undo.value = () => api.removeLimit(added.id)
      }
    })
  }

  function remove() {
    const before = mine.value
    if (!before) return
    return attempt(async () => {
      await api.removeLimit(before.id)
      undo.value = before.shipped ? undefined : () => api.addLimit(before)
    })
  }

  async function undoIt() {
    const act = undo.value
    if (act && (await attempt(act))) undo.value = undefined
  }

  const plain = series.value.limits.find(isOnAxis)
  const first = plain ?? (pointed === undefined ? series.value.limits[0] : undefined)
  draft.condition = first?.condition ?? (series.value.worse === 'down' ? 'below' : 'above')
  begin()
  if (pointed !== undefined) draft.warning = pointed
  void load()
  watch(() => [draft.condition, draft.level], begin)
  // fetched anew it is another object: only what has changed takes the place of what was typed
  watch(
    () => JSON.stringify(inForce.value),
    () => !saving.value && begin(),
  )

  return { draft, whole, inForce, mine, failure, fault, saving, undo, save, remove, undoIt }
}
