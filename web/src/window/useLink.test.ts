import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { useLink } from './useLink'

async function at(address: string) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:all(.*)*', component: { template: '<i />' } }],
  })
  await router.push(address)
  let links!: ReturnType<typeof useLink>
  mount(
    {
      setup() {
        links = useLink()
      },
      template: '<i />',
    },
    { global: { plugins: [router] } },
  )
  return { router, ...links }
}

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
    const { link, go, router } = await at('/memory?pick=3&w=3h&row=x')
    expect(link('/now', { pick: 9 }).query).toEqual({ pick: '9', w: '3h' })
    expect(link('/applications', { pick: undefined }).query).toEqual({ w: '3h' })
    go('/shelf', { pick: '' })
    await router.isReady()
    await new Promise((done) => router.afterEach(done))
    expect(router.currentRoute.value.fullPath).toBe('/shelf?w=3h')
  })
})
