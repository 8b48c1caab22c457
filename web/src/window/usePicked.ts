import { computed } from 'vue'
import { useRoute, useRouter, type LocationQueryRaw } from 'vue-router'
import { QUESTION_PATHS } from '@/frame/questions'

const MOST = 8
/** Choices of a page that say nothing about other instances or on other pages. */
export const OF_A_PAGE = [
  ...['charts', 'big', 'edit', 'id', 'state', 'by', 'filter'],
  ...['row', 'application', 'component', 'counts', 'unit', 'own', 'rank', 'bean'],
]

/** The picked instances, kept in the address in the order of the pick. */
export function usePicked() {
  const route = useRoute()
  const router = useRouter()
  const picked = computed(() =>
    String(route.query.pick ?? '')
      .split(',')
      .map(Number)
      .filter((id) => Number.isInteger(id) && id > 0),
  )

  /** Picks; the question stays, and from a page without one it is Now. */
  function pick(ids: number[], path?: string) {
    const asked = QUESTION_PATHS.includes(route.path) ? route.path : '/now'
    const query: LocationQueryRaw = {
      ...route.query,
      pick: ids.slice(0, MOST).join(',') || undefined,
    }
    for (const name of OF_A_PAGE) delete query[name]
    void router.push({ path: path ?? (ids.length ? asked : '/shelf'), query })
  }

  /** Adds an instance to the picked, or takes it out. */
  function toggle(id: number) {
    pick(picked.value.includes(id) ? picked.value.filter((i) => i !== id) : [...picked.value, id])
  }

  return { picked, pick, toggle }
}
