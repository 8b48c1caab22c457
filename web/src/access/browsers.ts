const BROWSERS = ['Firefox', 'Edg', 'Chrome', 'Safari'] as const
const SYSTEMS: [RegExp, string][] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
]

/** A browser by what it says that it is, as a person would call it. */
export function browserInWords(agent: string): string {
  const browser = BROWSERS.find((name) => agent.includes(`${name}/`))
  const system = SYSTEMS.find(([sign]) => sign.test(agent))?.[1]
  const called = browser === 'Edg' ? 'Edge' : browser
  return [called ?? (agent.slice(0, 40) || 'not told'), system].filter(Boolean).join(' on ')
}
