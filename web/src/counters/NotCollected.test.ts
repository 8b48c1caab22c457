import { flushPromises, mount } from '@vue/test-utils'
import { ElMessageBox } from 'element-plus'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { api } from '@/api/client'
import type { RecipeChange, RecipeText } from '@/api/types'
import NotCollected from './NotCollected.vue'

vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: { recipe: vi.fn(), changeRecipe: vi.fn() },
}))
const whole = vi.hoisted(() => ({ shapes: true }))
vi.mock('@/access/useMe', () => ({ useMe: () => ({ mayOfAll: () => whole.shapes }) }))

const router = createRouter({
  history: createMemoryHistory(),
  routes: [{ path: '/:all(.*)*', component: { template: '<i />' } }],
})

const named = (key: string, title: string, depth: string, group = 'databases') => ({
  key,
  title,
  depth,
  group,
  unit: '/s',
  pace: 'fast',
  meaning: `${title} of the engine.`,
  questions: ['Does something lock itself out?'],
})
const text = (without: string) =>
  ({
    key: 'postgresql',
    text: `without: [${without}]\ndepth: useful\n`,
    left: [
      ...(without ? [named('deadlocks', 'Deadlocks', 'essential')] : []),
      named('tables.vacuums', 'Vacuums', 'deep', 'tables'),
    ],
  }) as unknown as RecipeText

const shown = async (words: string, counts = '') => {
  const wrapper = mount(NotCollected, {
    props: { recipe: 'postgresql', words, counts, unit: '' },
    global: { plugins: [router], stubs: { RouterLink: { template: '<a><slot /></a>' } } },
  })
  await flushPromises()
  return wrapper
}

describe('counters that are not collected', () => {
  beforeEach(() => {
    whole.shapes = true
    vi.mocked(api.recipe).mockResolvedValue(text('deadlocks'))
    vi.mocked(api.changeRecipe).mockResolvedValue({
      added: [{ title: 'Deadlocks' }],
      usedBy: ['booking-db-a'],
    } as RecipeChange)
  })

  it('are found by word, by question and by what they count', async () => {
    expect((await shown('')).text()).toContain('2 more that are not collected')
    expect((await shown('lock itself')).text()).toContain('Deadlocks')
    expect((await shown('vacuums')).text()).not.toContain('Deadlocks')
    expect((await shown('', 'tables')).text()).not.toContain('Deadlocks')
    expect((await shown('nothing such')).find('section').exists()).toBe(false)
  })

  it('are taken in after asking; one that lies deeper leads to the recipe', async () => {
    const wrapper = await shown('')
    expect(wrapper.findAll('button')).toHaveLength(1)
    expect(wrapper.text()).toContain('deep: the recipe reads less deep')
    const ask = vi.spyOn(ElMessageBox, 'confirm').mockRejectedValueOnce('cancel')
    await wrapper.find('button').trigger('click')
    await flushPromises()
    expect(api.changeRecipe).toHaveBeenCalledTimes(1)
    expect(api.changeRecipe).toHaveBeenLastCalledWith(
      'postgresql',
      'without: []\ndepth: useful\n',
      true,
    )
    ask.mockResolvedValueOnce('confirm' as never)
    vi.mocked(api.recipe).mockResolvedValue(text(''))
    await wrapper.find('button').trigger('click')
    await flushPromises()
    expect(vi.mocked(api.changeRecipe).mock.lastCall?.[2]).toBe(false)
    expect(wrapper.text()).toContain('Deadlocks is read from now on.')
    expect(wrapper.text()).toContain('1 more')
  })

  it('are not offered to who may not change the recipe of all', async () => {
    whole.shapes = false
    const wrapper = await shown('')
    expect(wrapper.text()).toContain('Deadlocks')
    expect(wrapper.findAll('button')).toHaveLength(0)
  })
})
