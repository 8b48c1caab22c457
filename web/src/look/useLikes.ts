import { createGlobalState, useLocalStorage } from '@vueuse/core'
import { api, fieldOf } from '@/api/client'
import type { Likes } from '@/api/types'

/** A view that makes sense with nothing picked. */
export const FIRST_VIEWS = [
  ['shelf', 'Whole shelf'],
  ['alerts', 'Alerts'],
  ['moved', 'What moved'],
  ['together', 'Side by side'],
  ['applications', 'All application servers'],
  ['limits', 'All limits'],
  ['endpoints', 'End points'],
] as const

const AT_FIRST: Likes = { theme: '', keys: true, firstView: 'shelf', zone: '' }

const pick = (of: Likes, keys: Partial<Likes>): Partial<Likes> =>
  Object.fromEntries(Object.keys(keys).map((key) => [key, of[key as keyof Likes]]))

/**
 * How who looks likes it. This browser's copy is there at once, and stays while the server does not
 * answer; what is kept at the account comes after it.
 */
export const useLikes = createGlobalState(() => {
  const likes = useLocalStorage<Likes>('jamjar-likes', { ...AT_FIRST })

  let loaded: Promise<void> | undefined
  async function fetch() {
    const before = likes.value
    const told = await api.likes().catch(() => undefined)
    // what was chosen meanwhile is newer
    if (told && likes.value === before) likes.value = told
  }

  /** Fetches them once: who comes after somebody else has a page of their own. */
  const load = () => (loaded ??= fetch())

  // one after the other, or the server might keep the older of two
  let sent: Promise<unknown> = Promise.resolve()

  /** Holds here at once, and is kept at the account. */
  async function choose(change: Partial<Likes>) {
    const before = pick(likes.value, change)
    likes.value = { ...likes.value, ...change }
    const mine = sent.then(() => api.like(change))
    sent = mine.catch(() => {})
    try {
      await mine
    } catch (e) {
      // what can't be is not; what the server could not keep holds at this browser
      if (fieldOf(e)) likes.value = { ...likes.value, ...before }
      throw e
    }
  }

  return { likes, load, choose }
})

/** Where one begins who asked for no page. */
export function firstPath(): string {
  const { firstView } = useLikes().likes.value
  return FIRST_VIEWS.some(([word]) => word === firstView) ? `/${firstView}` : '/shelf'
}
