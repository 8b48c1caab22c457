import { useRoute, useRouter, type LocationQueryRaw } from 'vue-router'

/** What is picked and the window: they stay from one page to the next. */
const STAYS = ['pick', 'w', 'from', 'to', 'zone']

/** The one way to build where a link leads: what belongs to one page alone is left behind there. */
export function useLink() {
  const route = useRoute()
  const router = useRouter()

  /**
   * @param own what the page there is asked for; undefined takes away what would stay
   */
  function link(path: string, own: Record<string, string | number | undefined> = {}) {
    const query: LocationQueryRaw = {}
    for (const name of STAYS) if (route.query[name] !== undefined) query[name] = route.query[name]
    for (const [name, value] of Object.entries(own)) {
      if (value === undefined || value === '') delete query[name]
      else query[name] = `${value}`
    }
    return { path, query }
  }
  const go = (path: string, own?: Record<string, string | number | undefined>) =>
    void router.push(link(path, own))

  return { link, go }
}
