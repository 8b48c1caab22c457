import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { Failure } from './client'
import { useAnswer } from './useAnswer'

/** Questions that are answered when a test says so. */
function asked() {
  const open: {
    about: string
    signal: AbortSignal
    tell: (words: string) => void
    fail: () => void
  }[] = []
  const ask = (about: string, signal: AbortSignal) =>
    new Promise<string>((resolve, reject) =>
      open.push({
        about,
        signal,
        tell: resolve,
        fail: () => reject(new Failure('it does not answer', 0)),
      }),
    )
  return { open, ask }
}
const settled = async () => {
  for (let i = 0; i < 5; i++) await nextTick()
}

describe('an answer', () => {
  it('that comes late never lands under another name', async () => {
    const { open, ask } = asked()
    const about = ref<string | undefined>('a')
    const scope = effectScope()
    const { answer, asking } = scope.run(() => useAnswer(() => about.value, ask))!
    open[0]!.tell('of a')
    await settled()
    expect(answer.value).toBe('of a')
    about.value = 'b'
    await settled()
    expect(answer.value).toBeUndefined()
    about.value = 'c'
    await settled()
    expect(open[1]!.signal.aborted).toBe(true)
    open[2]!.tell('of c')
    open[1]!.tell('of b')
    await settled()
    expect(answer.value).toBe('of c')
    about.value = undefined
    await settled()
    expect([answer.value, asking.value, open.length]).toEqual([undefined, false, 3])
    scope.stop()
  })

  it('stays while it is asked for anew, and through a failure', async () => {
    const { open, ask } = asked()
    const at = ref(1)
    const scope = effectScope()
    const { answer, failure, again } = scope.run(() =>
      useAnswer(() => 'a', ask, { follows: () => at.value }),
    )!
    open[0]!.tell('first')
    await settled()
    at.value = 2
    await settled()
    expect(answer.value).toBe('first')
    open[1]!.fail()
    await settled()
    expect([answer.value, failure.value]).toEqual(['first', 'it does not answer'])
    const done = again()
    open[2]!.tell('second')
    await done
    expect([answer.value, failure.value]).toEqual(['second', ''])
    scope.stop()
  })

  it('that is slow lands, however often it is asked for meanwhile', async () => {
    const { open, ask } = asked()
    const at = ref(1)
    const scope = effectScope()
    const { answer } = scope.run(() => useAnswer(() => 'a', ask, { follows: () => at.value }))!
    for (at.value = 2; at.value < 5; at.value++) await settled()
    expect(open).toHaveLength(1)
    open[0]!.tell('first')
    await settled()
    expect(answer.value).toBe('first')
    expect(open).toHaveLength(2)
    open[1]!.tell('second')
    await settled()
    expect([answer.value, open.length]).toEqual(['second', 2])
    scope.stop()
  })

  it('that is wanted otherwise is broken off, and what is shown stays until the next', async () => {
    const { open, ask } = asked()
    const at = ref(1)
    const scope = effectScope()
    const { answer } = scope.run(() => useAnswer(() => 'a', ask, { instead: () => at.value }))!
    open[0]!.tell('of window 1')
    await settled()
    at.value = 2
    await settled()
    expect(answer.value).toBe('of window 1')
    at.value = 3
    await settled()
    expect(open[1]!.signal.aborted).toBe(true)
    open[2]!.tell('of window 3')
    open[1]!.tell('of window 2')
    await settled()
    expect([answer.value, open.length]).toEqual(['of window 3', 3])
    scope.stop()
  })

  it('is not waited for any more by who is gone', async () => {
    const { open, ask } = asked()
    const scope = effectScope()
    const { answer } = scope.run(() => useAnswer(() => 'a', ask))!
    scope.stop()
    expect(open[0]!.signal.aborted).toBe(true)
    open[0]!.tell('of a')
    await settled()
    expect(answer.value).toBeUndefined()
  })
})
