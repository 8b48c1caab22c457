import { describe, expect, it } from 'vitest'
import { callOf, classOf, namesOf } from './threads'

describe('threads', () => {
  const of = {
    stacks: [
      [
        'jdk.internal.misc.Unsafe.park',
        'java.util.concurrent.locks.LockSupport.park:341',
        'skerry.pool.Pool.borrow:214',
      ],
      ['java.lang.Object.wait', 'java.util.TimerThread.mainLoop:563'],
      [],
    ],
  }

  it('are where the first call is that is not of the JDK', () => {
    expect(callOf(of, 0)).toBe('skerry.pool.Pool.borrow:214')
    expect(callOf(of, 1)).toBe('java.lang.Object.wait')
    expect(callOf(of, 2)).toBe('no call')
  })

  it('wait for something of a class, without its packages', () => {
    expect(classOf('skerry.pool.Pool$Turn')).toBe('Pool$Turn')
    expect(classOf('Turn')).toBe('Turn')
  })

  it('are named, so many', () => {
    expect(namesOf(['a', 'b'])).toBe('a, b')
    expect(namesOf(['a', 'b', 'c'], 2)).toBe('a, b and 1 more')
  })
})
