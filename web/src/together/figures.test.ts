import { describe, expect, it } from 'vitest'
import type { Together, TogetherColumn } from '@/api/types'
import { figuresOf } from './figures'

const columns = [{ counter: 'a' }, { counter: 'b' }] as TogetherColumn[]
const figure = (more: object) => ({
  n: 2,
  sum: null,
  mean: 2,
  least: 1,
  greatest: 3,
  overMedian: null,
  ...more,
})

describe('figures across instances', () => {
  it('stand under their columns, and what says nothing of any is left out', () => {
    const sums: Together['sums'] = [
      { site: '', instances: 2, figures: [figure({ sum: 4 }), figure({})] },
      { site: 'Southmole', instances: 1, figures: [figure({}), figure({ overMedian: 1.5 })] },
    ]
    const [all, one] = figuresOf(sums, columns)
    expect(all?.rows.map((row) => row.name)).toEqual(['sum', 'mean', 'least', 'greatest'])
    expect(all?.rows[0]?.values).toEqual([4, null])
    expect(one?.rows.at(-1)).toEqual({
      name: 'greatest ÷ middle',
      times: true,
      values: [null, 1.5],
    })
  })
})
