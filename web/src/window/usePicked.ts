import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { QUESTION_PATHS } from '@/frame/questions'
import { useLink } from './useLink'

const MOST = 8

/** The picked instances, kept in the address in the order of the pick. */
export function usePicked() {
  const route = useRoute()
  const { go } = useLink()
  const picked = computed(() =>
    String(route.query.pick ?? '')
      .split(',')
      .map(Number)
      .filter((id) => Number.isInteger(id) && id > 0),
  )

  /** Picks; the question stays, and from a page without one it is Now. */
  function pick(ids: number[], path?: string) {
    const asked = QUESTION_PATHS.includes(route.path) ? route.path : '/now'
    go(path ?? (ids.length ? asked : '/shelf'), { pick: ids.slice(0, MOST).join(',') })
  }

  /** Adds an instance to the picked, or takes it out. */
  function toggle(id: number) {
    pick(picked.value.includes(id) ? picked.value.filter((i) => i !== id) : [...picked.value, id])
  }

  return { picked, pick, toggle }
}
