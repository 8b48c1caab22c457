/** What a recipe's text leaves out, and the text with one counter more or less left out. */
const LINE = /^without: *\[([^\]]*)\] *$/m

export function leftOut(text: string): string[] {
  const inside = LINE.exec(text)?.[1] ?? ''
  return inside
    .split(',')
    .map((key) => key.trim())
    .filter(Boolean)
}

/** A file without such a line gets one at its end. */
export function leaving(text: string, key: string, leave: boolean): string {
  const keys = leftOut(text).filter((other) => other !== key)
  if (leave) keys.push(key)
  const line = `without: [${keys.join(', ')}]`
  return LINE.test(text) ? text.replace(LINE, line) : `${text.replace(/\n*$/, '\n')}${line}\n`
}
