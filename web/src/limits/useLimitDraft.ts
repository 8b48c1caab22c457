import { computed, reactive, ref, watch, type Ref } from 'vue'
import { api, fieldOf, inWords } from '@/api/client'
import type { Instance, Limit, LimitBody, Series } from '@/api/types'

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
}

const sameLabels = (a: Record<string, string>, b: Record<string, string>) =>
  JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(b).sort())

/** A limit being set on one series: what is in force to begin with, saved as an act of its own, with undo. */
export function useLimitDraft(series: Ref<Series>, instance: Ref<Instance>) {
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
  })

  const inForce = computed(() => series.value.limits.find((l) => l.condition === draft.condition))
  const scopeOf = (level: Level) =>
    level === 'instance'
      ? `${instance.value.id}`
      : level === 'group'
        ? instance.value.group
        : instance.value.kind
  /** The limit that is set at the chosen reach already. */
  const mine = computed(() =>
    limits.value.find(
      (l) =>
        l.counter === series.value.counter &&
        l.condition === draft.condition &&
        l.scope.level === draft.level &&
        l.scope.of === scopeOf(draft.level) &&
        sameLabels(l.labels, series.value.labels),
    ),
  )

  function begin() {
    const limit = inForce.value
    draft.warning = limit?.warning ?? null
    draft.critical = limit?.critical ?? null
    draft.m = limit?.hold.m ?? 3
    draft.n = limit?.hold.n ?? 3
    draft.clear = limit?.clear ?? null
    draft.seconds = limit?.clearSeconds ?? null
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

  function body(): LimitBody {
    return {
      counter: series.value.counter,
      labels: series.value.labels,
      scope: { level: draft.level, of: scopeOf(draft.level) },
      condition: draft.condition,
      warning: draft.warning,
      critical: draft.critical,
      hold: { m: draft.m, n: draft.n },
      criticalHold: null,
      clear: { number: draft.clear, seconds: draft.seconds },
      criticalClear: null,
      on: true,
      offReason: '',
      offUntil: null,
    }
  }

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

  const first = series.value.limits.find((l) => l.condition !== 'outside') ?? series.value.limits[0]
  draft.condition = first?.condition ?? (series.value.worse === 'down' ? 'below' : 'above')
  begin()
  void load()
  watch(() => draft.condition, begin)
  // fetched anew it is another object: only what has changed takes the place of what was typed
  watch(
    () => JSON.stringify(inForce.value),
    () => !saving.value && begin(),
  )

  return { draft, inForce, mine, failure, fault, saving, undo, save, remove, undoIt }
}
