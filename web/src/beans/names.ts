import type { Bean } from '@/api/types'

/** The parts of a bean's name: what comes before the colon, and the properties after it. */
export function partsOf(name: string): { domain: string; properties: [string, string][] } {
  const colon = name.indexOf(':')
  const properties: [string, string][] = []
  // a comma inside quotes is part of a value
  const pairs = name.slice(colon + 1).match(/[^=,]+=(?:"(?:\\.|[^"\\])*"|[^,]*)/g) ?? []
  for (const pair of pairs) {
    const equals = pair.indexOf('=')
    properties.push([pair.slice(0, equals), pair.slice(equals + 1)])
  }
  return { domain: name.slice(0, colon), properties }
}

/** What tells it from others of its domain: the type first, then the rest. */
export function titleOf(name: string): string {
  const { properties } = partsOf(name)
  const type = properties.find(([key]) => key === 'type')
  const rest = properties.filter(([key]) => key !== 'type').map(([key, value]) => `${key} ${value}`)
  return [...(type ? [type[1]] : []), ...rest].join(' · ')
}

/** The beans whose name or attributes have all of the words, with the attributes that do. */
export function findBeans(beans: Bean[], words: string): { bean: Bean; hits: string[] }[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  if (!wanted.length) return beans.map((bean) => ({ bean, hits: [] }))
  return beans.flatMap((bean) => {
    const name = bean.name.toLowerCase()
    const missing = wanted.filter((word) => !name.includes(word))
    if (!missing.length) return [{ bean, hits: [] }]
    const hits = bean.attributes.filter((attribute) =>
      missing.every((word) => attribute.toLowerCase().includes(word)),
    )
    return hits.length ? [{ bean, hits }] : []
  })
}

/** The shape that an attribute most likely has, by its name; the person has the last word. */
export const looksLikeTotal = (path: string, type: string) =>
  /^(int|long|java\.lang\.(Integer|Long))$/.test(type) &&
  /(count|total\w*|requests|processed|errors|bytes(read|sent|received|written)?|millis)$/i.test(
    path,
  )
