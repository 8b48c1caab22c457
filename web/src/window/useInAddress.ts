import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * A choice of a page that stands in the address; left out there while it is what it is at first.
 *
 * @param step whether going back undoes it; a text, letter by letter, is no step
 */
export function useInAddress(name: string, first = '', step: 'push' | 'replace' = 'push') {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => String(route.query[name] ?? first),
    set: (value) =>
      void router[step]({
        path: route.path,
        query: { ...route.query, [name]: value === first ? undefined : value },
      }),
  })
}
