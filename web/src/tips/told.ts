/** What a title tells, and of what it tells it. */
export type Told = { of: string; words: string }

const MOST = 8
const LONGEST = 40

const textOf = (element: Element) => (element.textContent ?? '').replace(/\s+/g, ' ').trim()

/** What the titles of an element and of all in it tell, each once; of what holds many, nothing. */
export function told(element: Element): Told[] {
  const inside = [...element.querySelectorAll('[title]')]
  const all = inside.length > MOST ? [] : inside
  const found: Told[] = []
  for (const one of [...(element.hasAttribute('title') ? [element] : []), ...all]) {
    const words = one.getAttribute('title') ?? ''
    const text = textOf(one)
    if (!words || words === text || found.some((other) => other.words === words)) continue
    const named = one !== element && text.length <= LONGEST && text !== ''
    found.push({ of: named ? `${text}:` : '', words })
  }
  return found
}
