import { describe, expect, it } from 'vitest'
import type { Series } from '@/api/types'
import { search } from './search'

const series = (id: number, title: string, extra: Partial<Series> = {}): Series =>
  ({
    id,
    title,
    counter: title.toLowerCase().replace(/ /g, '_'),
    unit: '',
    labels: {},
    whole: true,
    meaning: '',
    suggests: '',
    questions: [],
    ...extra,
  }) as Series

const all = [
  series(1, 'Idle in failed transaction'),
  series(2, 'Longest idle in transaction'),
  series(3, 'Idle in transaction', { questions: ['Who holds a transaction open?'] }),
  series(4, 'Size of tables', { labels: { table: 'berth' }, whole: false }),
]
const ids = (words: string) => search(all, words).map((s) => s.id)

describe('search', () => {
  it('puts the counter first whose title is what was typed', () => {
    expect(ids('idle in transaction')[0]).toBe(3)
  })
  it('puts a word before a part of one', () => {
    const some = [series(1, 'Block hit ratio'), series(2, 'Held', { meaning: 'Locks granted.' })]
    expect(search(some, 'lock').map((s) => s.id)).toEqual([2, 1])
  })
  it('finds by question and by label, and wants every word', () => {
    expect(ids('who open')).toEqual([3])
    expect(ids('berth')).toEqual([4])
    expect(ids('berth idle')).toEqual([])
  })
  it('lists all when nothing is typed, the whole instance before its parts', () => {
    expect(ids('').at(-1)).toBe(4)
    expect(ids('')).toHaveLength(4)
  })
})
