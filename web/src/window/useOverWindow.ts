import { useAnswer } from '@/api/useAnswer'
import { useWindow } from './useWindow'

/** A window is asked anew when it has moved on by so much of it. */
const STEPS = 120

/**
 * What is asked of a window, with the window that it was asked for; `asked` is another one only when
 * another window is looked at. One that ends now is followed.
 *
 * @param about what else it is about; undefined for nothing
 * @param leastMs not more often than this
 * @param otherwise what is wanted otherwise of the same thing when it changes: what is shown stays
 *     until the answer to that
 */
export function useOverWindow<K, T>(
  about: () => K | undefined,
  ask: (about: K, from: number, to: number, signal: AbortSignal) => Promise<T>,
  leastMs: number,
  otherwise: () => unknown = () => '',
) {
  const window = useWindow()
  return useAnswer(
    about,
    async (key, signal) => {
      const [from, to] = [Math.round(window.from.value), Math.round(window.to.value)]
      const asked = window.live.value ? window.width.value : `${from} ${to}`
      return { told: await ask(key, from, to, signal), from, to, asked }
    },
    {
      instead: () => {
        const of = window.live.value
          ? window.width.value
          : `${window.from.value} ${window.to.value}`
        return `${of} ${otherwise()}`
      },
      follows: () =>
        window.live.value &&
        Math.floor(window.to.value / Math.max(leastMs, window.width.value / STEPS)),
    },
  )
}
