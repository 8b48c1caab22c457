import { describe, expect, it } from 'vitest'
import { findBeans, looksLikeTotal, partsOf, titleOf } from './names'

describe('names of managed beans', () => {
  it('have a domain and properties, whose quoted values may hold commas', () => {
    expect(partsOf('app:type=Cache,name="fares, winter"')).toEqual({
      domain: 'app',
      properties: [
        ['type', 'Cache'],
        ['name', '"fares, winter"'],
      ],
    })
    expect(titleOf('java.lang:name=Metaspace,type=MemoryPool')).toBe('MemoryPool · name Metaspace')
  })

  it('are found by all words, in the name or in an attribute', () => {
    const beans = [
      { name: 'java.lang:type=Memory', attributes: ['HeapMemoryUsage', 'Verbose'] },
      { name: 'java.lang:type=Threading', attributes: ['ThreadCount', 'PeakThreadCount'] },
    ]
    expect(findBeans(beans, '')).toHaveLength(2)
    expect(findBeans(beans, 'lang memory').map((f) => f.bean.name)).toEqual([
      'java.lang:type=Memory',
    ])
    expect(findBeans(beans, 'threading peak')).toEqual([
      { bean: beans[1], hits: ['PeakThreadCount'] },
    ])
    expect(findBeans(beans, 'memory peak')).toEqual([])
  })

  it('suggest a total where they count', () => {
    expect(looksLikeTotal('RequestCount', 'long')).toBe(true)
    expect(looksLikeTotal('CurrentThreads', 'int')).toBe(false)
    expect(looksLikeTotal('RequestCount', 'double')).toBe(false)
  })
})
