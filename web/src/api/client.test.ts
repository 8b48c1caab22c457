import { afterEach, describe, expect, it, vi } from 'vitest'
import { api, Failure, fieldOf, inWords } from './client'

const answers = (status: number, body: unknown) =>
  vi.stubGlobal('fetch', vi.fn().mockResolvedValue(new Response(JSON.stringify(body), { status })))

describe('what goes wrong', () => {
  afterEach(() => void vi.unstubAllGlobals())

  it('is told in the words of the server, with the field at fault', async () => {
    answers(422, { detail: 'Critical must be beyond warning.', type: 'field', field: 'critical' })
    const failure = await api.limits().catch((e: unknown) => e)
    expect(failure).toBeInstanceOf(Failure)
    expect([inWords(failure), fieldOf(failure), (failure as Failure).status]).toEqual([
      'Critical must be beyond warning.',
      'critical',
      422,
    ])
  })

  it('has words of our own where the server has none, or does not answer', async () => {
    vi.stubGlobal('fetch', vi.fn().mockResolvedValue(new Response('<html>', { status: 502 })))
    expect(inWords(await api.limits().catch((e: unknown) => e))).toBe('The server answered 502.')
    vi.stubGlobal('fetch', vi.fn().mockRejectedValue(new TypeError('failed')))
    expect(inWords(await api.limits().catch((e: unknown) => e))).toContain('does not answer at')
    expect([inWords('odd'), fieldOf('odd')]).toEqual(['odd', ''])
  })

  it('is nothing where there is nothing to tell', async () => {
    vi.stubGlobal('fetch', vi.fn().mockResolvedValue(new Response(null, { status: 204 })))
    await expect(api.want('x', [1])).resolves.toBeUndefined()
  })
})
