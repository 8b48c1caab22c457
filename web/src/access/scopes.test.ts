import { describe, expect, it } from 'vitest'
import type { Instance } from '@/api/types'
import { partsOf, scopeInWords } from './scopes'

const instance = (site: string, group: string, tags: string[]) =>
  ({ site, group, tags }) as unknown as Instance

describe('scopes', () => {
  it('reads as it is, and as all where it is of nothing in particular', () => {
    expect(scopeInWords(['site:North Quay', 'tag:test'])).toBe('site North Quay, tag test')
    expect(scopeInWords([])).toBe('all instances')
  })

  it('can be of what there is, each once, and stays of what is gone', () => {
    const all = [
      instance('Quay', 'fares', ['test', 'db']),
      instance('Quay', '', ['test']),
      instance('Mole', 'gate', []),
    ]
    expect(partsOf(all, ['group:gone', 'site:Mole']).map((one) => one.value)).toEqual([
      'site:Mole',
      'site:Quay',
      'group:fares',
      'group:gate',
      'tag:db',
      'tag:test',
      'group:gone',
    ])
  })
})
