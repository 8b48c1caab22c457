import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { fetchAhead } from './ahead'

describe('pages fetched ahead', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  /** A router with a page for each path; notes which are asked for. */
  function routerOf(paths: string[], asked: string[], fails = '') {
    const page = (path: string) => () => {
      asked.push(path)
      return path === fails
        ? Promise.reject(new Error('gone'))
        : Promise.resolve({ template: '<i/>' })
    }
    return createRouter({
      history: createMemoryHistory(),
      routes: [
        ...paths.map((path) => ({ path, component: page(path) })),
        { path: '/elsewhere', redirect: '/a' },
      ],
    })
  }

  it('come one after the other once the first stands, and one that fails keeps no other back', async () => {
    const asked: string[] = []
    fetchAhead(routerOf(['/a', '/b', '/c'], asked, '/b'))
    expect(asked).toEqual([])
    await vi.advanceTimersByTimeAsync(5000)
    expect([...asked].sort()).toEqual(['/a', '/b', '/c'])
  })

  it('wait while somebody presses keys', async () => {
    const asked: string[] = []
    fetchAhead(routerOf(['/a', '/b'], asked))
    for (let press = 0; press < 20; press++) {
      window.dispatchEvent(new KeyboardEvent('keydown', { key: '.' }))
      await vi.advanceTimersByTimeAsync(200)
    }
    expect(asked).toEqual([])
    await vi.advanceTimersByTimeAsync(2000)
    expect([...asked].sort()).toEqual(['/a', '/b'])
  })
})
