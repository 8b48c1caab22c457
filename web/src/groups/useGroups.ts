import { ref } from 'vue'
import { api } from '@/api/client'
import type { ExpectedGroup } from '@/api/types'

const groups = ref<ExpectedGroup[]>([])

/** How many instances of each group there should be at each site. */
export function useGroups() {
  async function reload() {
    groups.value = await api.groups().catch(() => groups.value)
  }

  /** Undefined where nobody has said. */
  const expected = (name: string, site: string) =>
    groups.value.find((g) => g.name === name && g.site === site)?.expected

  const commandOf = (name: string, site: string) =>
    groups.value.find((g) => g.name === name && g.site === site)?.command ?? ''
  return { reload, expected, commandOf, all: groups }
}
