import { mount } from '@vue/test-utils'
import { createMemoryHistory, createRouter } from 'vue-router'

/** What a part of a page has at an address, for tests. */
export async function inPage<T>(address: string, setup: () => T) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:all(.*)*', component: { template: '<i />' } }],
  })
  await router.push(address)
  let has!: T
  const page = mount(
    {
      setup() {
        has = setup()
      },
      template: '<i />',
    },
    { global: { plugins: [router] } },
  )
  /** Where it leads. */
  const arrived = () =>
    new Promise<string>((done) => {
      const stop = router.afterEach((to) => {
        stop()
        done(to.fullPath)
      })
    })
  return { ...has, has, router, page, arrived }
}
