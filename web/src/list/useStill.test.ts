import { describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useStill } from './useStill'

type Row = { id: string; age: number }
const row = (id: string, age = 0): Row => ({ id, age })

function list(first: Row[]) {
  const rows = ref(first)
  const about = ref('one')
  const host = document.createElement('div')
  document.body.append(host)
  const scope = effectScope()
  const still = scope.run(() =>
    useStill(
      ref(host),
      () => rows.value,
      (r) => r.id,
      () => about.value,
    ),
  )!
  const ids = () => still.shown.value.map((r) => `${r.id}${r.age}`).join(' ')
  return { rows, about, host, still, ids, end: () => scope.stop() }
}

describe('a list that is read', () => {
  it('follows while nobody is in it', async () => {
    const { rows, still, ids, end } = list([row('a'), row('b')])
    rows.value = [row('c'), row('a')]
    await nextTick()
    expect(ids()).toBe('c0 a0')
    expect(still.newer.value).toBe(0)
    end()
  })

  it('stands still under the pointer, with what is newest of each row', async () => {
    const { rows, host, still, ids, end } = list([row('a'), row('b')])
    await nextTick()
    host.dispatchEvent(new Event('pointerenter'))
    rows.value = [row('c', 1), row('b', 1)]
    expect(ids()).toBe('a0 b1')
    expect(still.newer.value).toBe(1)
    expect(still.isGone('a')).toBe(true)
    still.takeAll()
    expect(ids()).toBe('c1 b1')
    host.dispatchEvent(new Event('pointerleave'))
    rows.value = [row('d')]
    expect(ids()).toBe('d0')
    end()
  })

  it('keeps nothing of another thing', async () => {
    const { rows, about, host, still, ids, end } = list([row('a')])
    await nextTick()
    host.dispatchEvent(new Event('pointerenter'))
    rows.value = [row('x')]
    about.value = 'another'
    await nextTick()
    expect(ids()).toBe('x0')
    expect(still.newer.value).toBe(0)
    end()
  })
})
