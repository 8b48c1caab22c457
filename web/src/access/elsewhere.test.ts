import { beforeEach, describe, expect, it } from 'vitest'
import { askedFor, refusalInWords } from './elsewhere'

describe('signing in elsewhere', () => {
  beforeEach(() => sessionStorage.clear())

  it('says why somebody was not let in, and nothing where nobody was refused', () => {
    expect(refusalInWords('')).toBe('')
    expect(refusalInWords('groups')).toContain('none of your groups')
    expect(refusalInWords('<b>anything</b>')).not.toContain('anything')
  })

  it('remembers what was asked for, for once', () => {
    sessionStorage.setItem('page asked for', '/alerts?id=3')
    expect(askedFor()).toBe('/alerts?id=3')
    expect(askedFor()).toBeNull()
  })
})
