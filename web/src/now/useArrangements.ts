import { ref } from 'vue'
import { api } from '@/api/client'
import type { Arrangement, Instance } from '@/api/types'

const all = ref<Arrangement[]>([])
const loaded = ref(false)

/** How the charts are arranged where somebody has kept it: of one instance, else of its kind. */
export function useArrangements() {
  async function reload() {
    all.value = await api.arrangements().catch(() => all.value)
    loaded.value = true
  }
  const find = (reach: Arrangement['reach'], of: string) =>
    all.value.find((a) => a.reach === reach && a.of === of)

  /** The one in force. */
  const of = (instance: Instance | undefined) =>
    instance && (find('instance', `${instance.id}`) ?? find('kind', instance.kind))

  async function keep(arrangement: Arrangement) {
    await api.keepArrangement(arrangement)
    await reload()
  }
  async function forget(arrangement: Arrangement) {
    await api.forgetArrangement(arrangement.reach, arrangement.of)
    await reload()
  }
  return { reload, loaded, of, keep, forget }
}
