/** How deep a recipe digs. */
export const DEPTHS = [
  { key: 'essential', label: 'the essential', meaning: 'what is shown first or has a limit' },
  { key: 'useful', label: 'the useful too', meaning: 'what a first question needs' },
  { key: 'deep', label: 'the deep too', meaning: 'all there is' },
] as const
export type Depth = (typeof DEPTHS)[number]['key']

/** Whether one depth lies below another. */
export const isDeeper = (depth: string, than: string) =>
  DEPTHS.findIndex((d) => d.key === depth) > DEPTHS.findIndex((d) => d.key === than)

const DEPTH = /^depth: *(\w+) *$/m
const PACES = /^paces: *\{([^}]*)\} *$/m

const withLine = (text: string, form: RegExp, line: string) =>
  form.test(text) ? text.replace(form, line) : `${text.replace(/\n*$/, '\n')}${line}\n`

/** A file that does not say reads all. */
export const depthOf = (text: string): Depth =>
  DEPTHS.find((d) => d.key === DEPTH.exec(text)?.[1])?.key ?? 'deep'

export const withDepth = (text: string, depth: Depth) => withLine(text, DEPTH, `depth: ${depth}`)

/** Seconds per pace, as far as the file itself sets them. */
export function pacesOf(text: string): Record<string, number> {
  const pairs = (PACES.exec(text)?.[1] ?? '').split(',').map((pair) => pair.split(':'))
  return Object.fromEntries(
    pairs.flatMap(([name, seconds]) => (name && seconds ? [[name.trim(), Number(seconds)]] : [])),
  )
}

export function withPace(text: string, pace: string, seconds: number): string {
  const paces = { ...pacesOf(text), [pace]: seconds }
  const inside = Object.entries(paces).map(([name, s]) => `${name}: ${s}`)
  return withLine(text, PACES, `paces: {${inside.join(', ')}}`)
}
