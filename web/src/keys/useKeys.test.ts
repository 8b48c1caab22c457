import { afterEach, describe, expect, it } from 'vitest'
import { effectScope } from 'vue'
import { useKeys, useKeysOn } from './useKeys'

const scope = effectScope()
const pressed: string[] = []
scope.run(() =>
  useKeys({
    n: () => pressed.push('n'),
    ArrowDown: () => pressed.push('down'),
    Escape: () => pressed.push('escape'),
  }),
)
function press(key: string, into: string, init: KeyboardEventInit = {}) {
  document.body.innerHTML = into
  const target = document.body.querySelector('.here')!
  target.dispatchEvent(
    new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init }),
  )
  return pressed.splice(0)
}

describe('keys', () => {
  afterEach(() => void (useKeysOn().value = true))

  it('act, but not in a field, in a dialogue, or with another key held', () => {
    expect(press('n', '<p class="here"></p>')).toEqual(['n'])
    expect(press('n', '<input class="here">')).toEqual([])
    expect(press('n', '<div role="dialog"><p class="here"></p></div>')).toEqual([])
    expect(press('n', '<p class="here"></p>', { ctrlKey: true })).toEqual([])
    expect(press('x', '<p class="here"></p>')).toEqual([])
    expect(press('n', '<p class="here" role="slider"></p>')).toEqual(['n'])
  })

  it('leave the arrows to scroll, but in a list that they walk through', () => {
    expect(press('ArrowDown', '<p class="here"></p>')).toEqual([])
    expect(press('ArrowDown', '<div data-arrows><p class="here"></p></div>')).toEqual(['down'])
    expect(press('ArrowDown', '<p class="here"></p>', { shiftKey: true })).toEqual(['down'])
  })

  it('leave to others what they do nothing with', () => {
    const [first, other] = [effectScope(), effectScope()]
    first.run(() => useKeys({ q: (event) => event.shiftKey && pressed.push('shifted') }))
    other.run(() => useKeys({ q: () => pressed.push('plain') }))
    expect(press('q', '<p class="here"></p>')).toEqual(['plain'])
    expect(press('q', '<p class="here"></p>', { shiftKey: true })).toEqual(['shifted'])
    first.stop()
    other.stop()
  })

  it('are switched off but for the one that closes', () => {
    useKeysOn().value = false
    expect(press('n', '<p class="here"></p>')).toEqual([])
    expect(press('Escape', '<p class="here"></p>')).toEqual(['escape'])
  })
})
