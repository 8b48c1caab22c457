import { createGlobalState, useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { inWords } from '@/api/client'
import { useClock } from '@/window/useClock'

/** So long a person may think better of it. */
export const GOES_AFTER_MS = 10_000

/** Something that is to be removed: until then it can be kept. */
export type Going = { key: string; words: string; at: number; goes: boolean; failure: string }

/** What is removed goes after ten seconds, at once when that is asked for or the page is left. */
export const useGoing = createGlobalState(() => {
  const going = ref<Going[]>([])
  const acts = new Map<string, () => Promise<unknown>>()
  const timers = new Map<string, ReturnType<typeof setTimeout>>()
  const now = useClock()

  const isGoing = (key: string) => going.value.some((one) => one.key === key && !one.failure)
  function drop(key: string) {
    clearTimeout(timers.get(key))
    timers.delete(key)
    acts.delete(key)
    going.value = going.value.filter((one) => one.key !== key)
  }

  const change = (key: string, to: Partial<Going>) => {
    going.value = going.value.map((one) => (one.key === key ? { ...one, ...to } : one))
  }

  async function go(key: string) {
    clearTimeout(timers.get(key))
    const act = acts.get(key)
    if (!act) return
    // twice is once, and what is under way can't be kept any more
    acts.delete(key)
    change(key, { goes: true, failure: '' })
    try {
      await act()
      drop(key)
    } catch (e) {
      acts.set(key, act)
      change(key, { goes: false, failure: inWords(e) })
    }
  }

  /**
   * Removes something soon.
   *
   * @param key what it is: twice the same is once
   */
  function later(key: string, words: string, act: () => Promise<unknown>) {
    drop(key)
    acts.set(key, act)
    going.value = [
      ...going.value,
      { key, words, at: Date.now() + GOES_AFTER_MS, goes: false, failure: '' },
    ]
    timers.set(
      key,
      setTimeout(() => void go(key), GOES_AFTER_MS),
    )
  }

  const secondsLeft = (one: Going) => Math.max(0, Math.ceil((one.at - now.value) / 1000))
  useEventListener('pagehide', () => going.value.forEach((one) => one.failure || void go(one.key)))

  return { going, isGoing, later, go, keep: drop, secondsLeft }
})
