import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { inWords } from './client'

/**
 * The answer to a question that changes. The latest one wins: an answer to an earlier one is broken
 * off and never lands; what is shown of another thing goes at once when the question is about
 * another; and nothing comes any more once who asked is gone.
 *
 * @param about what it is about; undefined for nothing
 * @param ask asks
 * @param follows when this changes it is asked again once what is under way was told, and what is shown stays
 *   until then
 */
export function useAnswer<K, T>(
  about: () => K | undefined,
  ask: (about: K, signal: AbortSignal) => Promise<T>,
  follows?: () => unknown,
) {
  const answer = ref<T>() as Ref<T | undefined>
  const failure = ref('')
  const asking = ref(false)
  let going: AbortController | undefined
  let running: Promise<void> | undefined
  let owed = false

  /** What is under way about the same is waited for, however slow: broken off it would never land. */
  function again(): Promise<void> {
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

  watch(
    () => JSON.stringify(about()),
    () => {
      going?.abort()
      running = undefined
      answer.value = undefined
      failure.value = ''
      void again()
    },
    { immediate: true },
  )
  if (follows) watch(follows, again)
  onScopeDispose(() => going?.abort())

  return { answer, failure, asking, again }
}
