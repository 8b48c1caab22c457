import { describe, expect, it } from 'vitest'
import { inPage } from '@/testing/inPage'
import { useLink } from './useLink'

const at = (address: string) => inPage(address, useLink)

describe('a link', () => {
  it('keeps what is picked and the window, and leaves behind what belongs to the page', async () => {
    const { link } = await at('/now?pick=3,5&from=a&to=b&big=x&edit=limit&filter=w')
    expect(link('/limits')).toEqual({ path: '/limits', query: { pick: '3,5', from: 'a', to: 'b' } })
    expect(link('/alerts', { id: 7, state: undefined }).query).toEqual({
      pick: '3,5',
      from: 'a',
      to: 'b',
      id: '7',
    })
  })

  it('changes one of them alone', async () => {
    const { link, go, arrived } = await at('/memory?pick=3&w=3h&row=x')
    expect(link('/now', { pick: 9 }).query).toEqual({ pick: '9', w: '3h' })
    expect(link('/applications', { pick: undefined }).query).toEqual({ w: '3h' })
    go('/shelf', { pick: '' })
    expect(await arrived()).toBe('/shelf?w=3h')
  })
})
