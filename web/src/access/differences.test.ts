import { describe, expect, it } from 'vitest'
import { differences } from './differences'

describe('what a change changed', () => {
  it('is told field by field, and nothing of what stayed', () => {
    expect(
      differences(
        '{"name":"fares","warning":90,"reach":{"level":"kind"},"on":true}',
        '{"name":"fares","warning":80,"reach":{"level":"group"},"on":true}',
      ),
    ).toEqual([
      { field: 'warning', words: '90 → 80' },
      { field: 'reach', words: '{"level":"kind"} → {"level":"group"}' },
    ])
  })

  it('is all there is where it came or went as a whole', () => {
    expect(differences(null, '{"title":"release 4.9","note":""}')).toEqual([
      { field: 'title', words: 'release 4.9' },
    ])
    expect(differences('{"user":"reader","usedBy":[]}', null)).toEqual([
      { field: 'user', words: 'reader' },
      { field: 'usedBy', words: '[]' },
    ])
  })

  it('tells moments as moments, and numbers as numbers', () => {
    const at = Date.UTC(2026, 10, 28, 12, 0, 5)
    const [until, count] = differences(null, `{"keyUntil":${at},"count":${at}}`)
    expect(until!.words).toMatch(/2026.*\d\d:00:05/)
    expect(count!.words).toBe(`${at}`)
  })

  it('says where there was nothing before, or is nothing any more', () => {
    expect(differences('{"note":null,"site":"Northquay"}', '{"note":"x","site":""}')).toEqual([
      { field: 'note', words: '– → x' },
      { field: 'site', words: 'Northquay → –' },
    ])
  })
})
