import { describe, expect, it } from 'vitest'
import { leaving, leftOut } from './without'

describe('what a recipe leaves out', () => {
  const text = 'kind: jvm\nwithout: [a.b, c]\nname: Ours\n'
  it('is read from its line', () => {
    expect(leftOut(text)).toEqual(['a.b', 'c'])
    expect(leftOut('kind: jvm\n')).toEqual([])
  })
  it('grows and shrinks by one, and the rest of the text stays', () => {
    expect(leaving(text, 'd', true)).toBe('kind: jvm\nwithout: [a.b, c, d]\nname: Ours\n')
    expect(leaving(text, 'a.b', false)).toBe('kind: jvm\nwithout: [c]\nname: Ours\n')
    expect(leaving(leaving(text, 'c', false), 'c', true)).toBe(text)
  })
  it('gets a line where there is none', () => {
    expect(leaving('kind: jvm', 'c', true)).toBe('kind: jvm\nwithout: [c]\n')
  })
})
