import { useLocalStorage } from '@vueuse/core'

const marked = useLocalStorage<string[]>('counters-marked', [])

/** The counters that a person has marked as their own, in this browser. */
export function useMarked() {
  const isMarked = (counter: string) => marked.value.includes(counter)
  function mark(counter: string) {
    marked.value = isMarked(counter)
      ? marked.value.filter((other) => other !== counter)
      : [...marked.value, counter]
  }
  return { isMarked, mark }
}
