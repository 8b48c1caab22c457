import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** A choice of a page that stands in the address; left out there while it is what it is at first. */
export function useInAddress(name: string, first = '') {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => String(route.query[name] ?? first),
    set: (value) =>
      void router.push({
        path: route.path,
        query: { ...route.query, [name]: value === first ? undefined : value },
      }),
  })
}
