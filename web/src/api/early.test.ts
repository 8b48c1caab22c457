import { afterEach, describe, expect, it, vi } from 'vitest'
import { api } from './client'
import { askEarly, firstOf, forget } from './early'

const told: Record<string, string> = {}
const fetched = vi.fn((path: string) =>
  Promise.resolve(new Response(told[path] ?? '[]', { status: 200 })),
)

describe('what is asked for early', () => {
  vi.stubGlobal('fetch', fetched)
  afterEach(() => {
    forget()
    fetched.mockClear()
  })

  it('is what the page begins with', () => {
    const now = firstOf({ pathname: '/now', search: '?pick=5,7&zone=UTC' })
    expect(now).toContain('/api/instances/5/series')
    expect(now).toContain('/api/instances/7/series')
    const many = firstOf({ pathname: '/now', search: `?pick=x,-1,${'7,'.repeat(500)}` })
    expect(many.filter((path) => path.endsWith('/series'))).toHaveLength(8)
    expect(firstOf({ pathname: '/shelf', search: '?pick=5' }).join()).not.toContain('series')
    expect(firstOf({ pathname: '/enter', search: '' })).toEqual(['/api/session'])
  })

  it('is told once, to who asks for it first', async () => {
    told['/api/instances'] = '[{"id":1}]'
    askEarly({ pathname: '/shelf', search: '' })
    const asked = fetched.mock.calls.length
    expect(await api.instances()).toEqual([{ id: 1 }])
    expect(fetched).toHaveBeenCalledTimes(asked)
    told['/api/instances'] = '[{"id":1},{"id":2}]'
    expect(await api.instances()).toHaveLength(2)
    expect(fetched).toHaveBeenCalledTimes(asked + 1)
  })

  it('is forgotten with the first change: who signs in is told what they may see', async () => {
    told['/api/instances'] = '[]'
    askEarly({ pathname: '/shelf', search: '' })
    told['/api/session'] = '{"name":"solveig"}'
    await api.signIn('solveig', 'of nine lanterns')
    told['/api/instances'] = '[{"id":3}]'
    expect(await api.instances()).toEqual([{ id: 3 }])
  })

  it('that fails is told to who asks for it, and to nobody else', async () => {
    fetched.mockImplementationOnce(() => Promise.reject(new TypeError('refused')))
    askEarly({ pathname: '/enter', search: '' })
    await expect(api.me()).rejects.toThrow('does not answer')
  })
})
