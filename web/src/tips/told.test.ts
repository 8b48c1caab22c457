// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import { told } from './told'

function of(html: string) {
  const box = document.createElement('div')
  box.innerHTML = html
  return box.firstElementChild!
}

describe('what titles tell of what has the focus', () => {
  it('is its own, and that of what it holds, each once', () => {
    expect(told(of('<a title="opens it">jar</a>'))).toEqual([{ of: '', words: 'opens it' }])
    expect(
      told(
        of(
          '<div title="row"><i title="12,345.6 ms">12.3 s</i><b title="12,345.6 ms">12</b><u>x</u></div>',
        ),
      ),
    ).toEqual([
      { of: '', words: 'row' },
      { of: '12.3 s:', words: '12,345.6 ms' },
    ])
  })

  it('is nothing where it says no more than is seen, or where there are too many', () => {
    expect(told(of('<a title="jar">jar</a>'))).toEqual([])
    expect(told(of(`<div>${'<i title="x">y</i>'.repeat(9)}</div>`))).toEqual([])
  })
})
