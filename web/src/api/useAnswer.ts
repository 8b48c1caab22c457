import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { inWords } from './client'

/**
 * The answer to a question that changes. The latest one wins: an answer to an earlier one is broken
 * off and never lands; what is shown of another thing goes at once when the question is about
 * another; and nothing comes any more once who asked is gone.
 *
 * @param about what it is about; undefined for nothing
 * @param ask asks
 * @param changes what is shown stays until the next answer when one of these changes
 * @param changes.follows it is asked again once what is under way was told: something happened
 * @param changes.instead what is under way is broken off and it is asked anew: it is wanted otherwise
 */
export function useAnswer<K, T>(
  about: () => K | undefined,
  ask: (about: K, signal: AbortSignal) => Promise<T>,
  changes: { follows?: () => unknown; instead?: () => unknown } = {},
) {
  const answer = shallowRef<T>()
  const failure = ref('')
  const asking = ref(false)
  let going: AbortController | undefined
  let running: Promise<void> | undefined
  let owed = false
  let gone = false

  /** What is under way about the same is waited for, however slow: broken off it would never land. */
  function again(): Promise<void> {
    // what waited for a moment to ask may come after who wanted to know has left
    if (gone) return Promise.resolve()
    if (running) owed = true
    else running = run(about())
    return running
  }

  async function run(wanted: K | undefined) {
    const mine = new AbortController()
    going = mine
    asking.value = wanted !== undefined
    do {
      owed = false
      if (wanted === undefined) break
      try {
        const told = await ask(wanted, mine.signal)
        if (mine.signal.aborted) return
        answer.value = told
        failure.value = ''
      } catch (e) {
        if (mine.signal.aborted) return
        failure.value = inWords(e)
      }
    } while (owed)
    asking.value = false
    running = undefined
  }

  function anew() {
    going?.abort()
    running = undefined
    return again()
  }

  watch(
    () => JSON.stringify(about()),
    () => {
      answer.value = undefined
      failure.value = ''
      void anew()
    },
    { immediate: true },
  )
  if (changes.follows) watch(changes.follows, again)
  if (changes.instead) watch(changes.instead, anew)
  onScopeDispose(() => {
    gone = true
    going?.abort()
  })

  return { answer, failure, asking, again }
}
