import { describe, expect, it } from 'vitest'
import { inPage } from '@/testing/inPage'
import { usePicked } from './usePicked'

describe('what is picked', () => {
  it('stands in the address in its order, and the question stays', async () => {
    const { picked, toggle, arrived } = await inPage('/memory?pick=7,3&w=3h', usePicked)
    expect(picked.value).toEqual([7, 3])
    toggle(5)
    expect(await arrived()).toBe('/memory?pick=7,3,5&w=3h')
    toggle(3)
    expect(await arrived()).toBe('/memory?pick=7,5&w=3h')
  })

  it('is nothing on the whole shelf, and from a page without a question it is Now', async () => {
    const { pick, arrived } = await inPage('/estate?w=3h', usePicked)
    pick([4])
    expect(await arrived()).toBe('/now?w=3h&pick=4')
    pick([])
    expect(await arrived()).toBe('/shelf?w=3h')
  })

  it('is eight at most, and the ninth is told why it is not', async () => {
    const { toggle, refused, router } = await inPage('/now?pick=1,2,3,4,5,6,7,8', usePicked)
    toggle(9)
    expect(router.currentRoute.value.query.pick).toBe('1,2,3,4,5,6,7,8')
    expect(refused.value).toContain('8 are picked')
    toggle(1)
    expect(refused.value).toBe('')
  })

  it('leaves out what makes no sense', async () => {
    const { picked } = await inPage('/now?pick=a,-1,2.5,6', usePicked)
    expect(picked.value).toEqual([6])
  })
})
