/** Who wants what, several at a time: what at least one of them wants. */
export function wants<K>() {
  const by = new Map<K, readonly number[]>()
  return {
    has: (who: K) => by.has(who),
    set: (who: K, instances: readonly number[]) => void by.set(who, instances),
    drop: (who: K) => void by.delete(who),
    all: () => [...new Set([...by.values()].flat())].sort((a, b) => a - b),
  }
}
