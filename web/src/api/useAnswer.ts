import { onScopeDispose, ref, watch, type Ref } from 'vue'
import { inWords } from './client'

/**
 * The answer to a question that changes. The latest one wins: an answer to an earlier one is broken
 * off and never lands; what is shown of another thing goes at once when the question is about
 * another; and nothing comes any more once who asked is gone.
 *
 * @param about what it is about; undefined for nothing
 * @param ask asks
 * @param follows when this changes it is asked again, and what is shown stays until then
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

  async function again() {
    going?.abort()
    const wanted = about()
    const mine = new AbortController()
    going = mine
    asking.value = wanted !== undefined
    if (wanted === undefined) return
    try {
      const told = await ask(wanted, mine.signal)
      if (mine.signal.aborted) return
      answer.value = told
      failure.value = ''
    } catch (e) {
      if (mine.signal.aborted) return
      failure.value = inWords(e)
    }
    asking.value = false
  }

  watch(
    () => JSON.stringify(about()),
    () => {
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
