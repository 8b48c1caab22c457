import { computed, type Ref } from 'vue'
import { windowInWords } from '@/text/format'
import { merged } from './rail'
import { useReach } from './useReach'

/** Gaps, hatched on the rail: too near to each other they become one. */
const HOLE = 0.004

export function useHoles(now: Ref<number>) {
  const { reach, gaps } = useReach()
  return computed(() =>
    merged(
      gaps.value.map((of) => ({ kind: 'gap', from: of.from, to: of.to, of })),
      now.value,
      HOLE,
      reach.value,
    ).map((hole) => {
      const count = hole.all.reduce((sum, of) => sum + of.count, 0)
      const [first] = hole.all
      const what =
        count > 1 ? `${count} gaps` : [first?.instance, first?.why].filter(Boolean).join(': ')
      return { ...hole, words: `${what}, ${windowInWords(hole.from, hole.to)}` }
    }),
  )
}
