import { ref } from 'vue'
import { inWords } from './client'

/**
 * To change something: what was refused is told until the next attempt.
 *
 * @param afterwards whatever came of it, such as to fetch it again
 */
export function useAttempt(afterwards: () => unknown = () => undefined) {
  const refused = ref('')

  /** @returns whether it was done */
  async function attempt(what: () => Promise<unknown>) {
    refused.value = ''
    try {
      await what()
      return true
    } catch (e) {
      refused.value = inWords(e)
      return false
    } finally {
      await afterwards()
    }
  }
  return { refused, attempt }
}
