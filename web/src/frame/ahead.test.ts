import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { fetchAhead } from './ahead'

describe('pages fetched ahead', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('come one after the other once the first stands, and one that fails keeps no other back', async () => {
    const asked: string[] = []
    const page = (name: string, fails = false) => {
      return () => {
        asked.push(name)
        return fails ? Promise.reject(new Error('gone')) : Promise.resolve({ template: '<i/>' })
      }
    }
    const router = createRouter({
      history: createMemoryHistory(),
      routes: [
        { path: '/a', component: page('a') },
        { path: '/b', component: page('b', true) },
        { path: '/c', component: page('c') },
        { path: '/d', redirect: '/a' },
      ],
    })
    fetchAhead(router)
    expect(asked).toEqual([])
    await vi.advanceTimersByTimeAsync(5000)
    expect([...asked].sort()).toEqual(['a', 'b', 'c'])
  })
})
