/** What belongs together, in the order of the first of each. */
export function grouped<T>(all: T[], key: (one: T) => string): [string, T[]][] {
  const found = new Map<string, T[]>()
  for (const one of all) {
    const there = found.get(key(one))
    if (there) there.push(one)
    else found.set(key(one), [one])
  }
  return [...found]
}
