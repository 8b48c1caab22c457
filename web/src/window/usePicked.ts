import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { QUESTION_PATHS } from '@/frame/questions'
import { useLink } from './useLink'

const MOST = 8
/** Why the last one was not picked; empty where it was. */
const refused = ref('')

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
    refused.value = ''
    const asked = QUESTION_PATHS.includes(route.path) ? route.path : '/now'
    go(path ?? (ids.length ? asked : '/shelf'), { pick: ids.slice(0, MOST).join(',') })
  }

  /** Adds an instance to the picked, or takes it out; one more than fit is refused, with the reason. */
  function toggle(id: number) {
    refused.value = ''
    if (picked.value.includes(id)) pick(picked.value.filter((i) => i !== id))
    else if (picked.value.length < MOST) pick([...picked.value, id])
    else refused.value = `${MOST} are picked, as many as stand side by side: take one out first.`
  }

  return { picked, pick, toggle, refused }
}
