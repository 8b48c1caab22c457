import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { QUESTION_PATHS } from '@/frame/questions'
import { idsOf, MOST_PICKED } from './picks'
import { useLink } from './useLink'

/** Why the last one was not picked; empty where it was. */
const refused = ref('')

/** The picked instances, kept in the address in the order of the pick. */
export function usePicked() {
  const route = useRoute()
  const { go } = useLink()
  const picked = computed(() => idsOf(route.query.pick))

  /** Picks; the question stays, and from a page without one it is Now. */
  function pick(ids: number[], path?: string) {
    refused.value = ''
    const asked = QUESTION_PATHS.includes(route.path) ? route.path : '/now'
    go(path ?? (ids.length ? asked : '/shelf'), { pick: ids.slice(0, MOST_PICKED).join(',') })
  }

  /** Adds an instance to the picked, or takes it out; one more than fit is refused, with the reason. */
  function toggle(id: number) {
    refused.value = ''
    if (picked.value.includes(id)) pick(picked.value.filter((i) => i !== id))
    else if (picked.value.length < MOST_PICKED) pick([...picked.value, id])
    else
      refused.value = `${MOST_PICKED} are picked, as many as stand side by side: take one out first.`
  }

  return { picked, pick, toggle, refused }
}
