import { describe, expect, it } from 'vitest'
import { depthOf, isDeeper, pacesOf, withDepth, withPace } from './lines'

describe('lines of a recipe', () => {
  it('say how deep it digs, all where they say nothing', () => {
    expect(depthOf('kind: jvm\n')).toBe('deep')
    expect(depthOf('depth: useful\n')).toBe('useful')
    expect(isDeeper('deep', 'useful')).toBe(true)
    expect(isDeeper('useful', 'useful')).toBe(false)
    expect(withDepth('kind: jvm', 'useful')).toBe('kind: jvm\ndepth: useful\n')
    expect(withDepth('depth: useful\nkind: jvm\n', 'deep')).toBe('depth: deep\nkind: jvm\n')
  })

  it('set the seconds between two readings, pace by pace', () => {
    expect(pacesOf('kind: jvm\n')).toEqual({})
    expect(withPace('kind: jvm\n', 'slow', 600)).toBe('kind: jvm\npaces: {slow: 600}\n')
    expect(withPace('paces: {fast: 10, slow: 300}\n', 'slow', 60)).toBe(
      'paces: {fast: 10, slow: 60}\n',
    )
  })
})
