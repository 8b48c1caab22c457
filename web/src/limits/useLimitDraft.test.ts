import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'
import { api, Failure } from '@/api/client'
import type { Instance, Limit, LimitInForce, Series } from '@/api/types'
import { useLimitDraft } from './useLimitDraft'

vi.mock('@/api/client', async (original) => ({
  ...(await original<typeof import('@/api/client')>()),
  api: {
    limits: vi.fn(),
    addLimit: vi.fn(),
    changeLimit: vi.fn(),
    removeLimit: vi.fn(),
  },
}))

const inForce = {
  condition: 'above',
  warning: 10,
  critical: 25,
  hold: { m: 2, n: 5 },
  clear: 8,
  clearSeconds: 30,
} as LimitInForce
const series = ref({
  counter: 'waiters',
  labels: {},
  worse: 'up',
  limits: [inForce],
} as unknown as Series)
const instance = ref({ id: 7, group: 'booking-db', kind: 'postgresql' } as Instance)
const stored = (id: number, level: string, of: string) =>
  ({ id, counter: 'waiters', labels: {}, condition: 'above', scope: { level, of } }) as Limit

function draft(pointed?: number, of = series) {
  const scope = effectScope()
  return scope.run(() => useLimitDraft(of, instance, pointed)) as ReturnType<typeof useLimitDraft>
}

describe('a limit being set', () => {
  beforeEach(() => {
    vi.resetAllMocks()
    vi.mocked(api.limits).mockResolvedValue([stored(1, 'kind', 'postgresql')])
  })

  it('begins with what is in force', () => {
    const { draft: d } = draft()
    expect(d).toMatchObject({ condition: 'above', warning: 10, critical: 25, m: 2, n: 5, clear: 8 })
  })

  it('begins with a number that was pointed at, where only what is outside is watched for too', () => {
    expect(draft(17).draft).toMatchObject({ condition: 'above', warning: 17, critical: 25, m: 2 })
    const outside = { ...inForce, condition: 'outside' }
    const only = ref({ ...series.value, worse: 'down', limits: [outside] } as Series)
    expect(draft(17, only).draft).toMatchObject({ condition: 'below', warning: 17, critical: null })
    expect(draft(undefined, only).draft.condition).toBe('outside')
  })

  it('adds one for the instance, and undo takes it away again', async () => {
    vi.mocked(api.addLimit).mockResolvedValue(stored(9, 'instance', '7'))
    const it = draft()
    await flushPromises()
    it.draft.warning = 12
    expect(await it.save()).toBe(true)
    expect(vi.mocked(api.addLimit).mock.calls[0]?.[0]).toMatchObject({
      scope: { level: 'instance', of: '7' },
      warning: 12,
      hold: { m: 2, n: 5 },
      clear: { number: 8, seconds: 30 },
    })
    await it.undoIt()
    expect(api.removeLimit).toHaveBeenCalledWith(9)
    expect(it.undo.value).toBeUndefined()
  })

  it('changes the one that is there at the chosen reach, and undo puts it back', async () => {
    const it = draft()
    await flushPromises()
    it.draft.level = 'kind'
    await it.save()
    expect(vi.mocked(api.changeLimit).mock.calls[0]?.[0]).toBe(1)
    await it.undoIt()
    expect(vi.mocked(api.changeLimit).mock.calls[1]).toEqual([1, stored(1, 'kind', 'postgresql')])
  })

  it('keeps what it does not show, and what is inherited stays inherited', async () => {
    const kind = {
      ...stored(1, 'kind', 'postgresql'),
      warning: 20,
      critical: 25,
      hold: { m: 2, n: 5 },
    }
    const own = {
      ...stored(4, 'instance', '7'),
      warning: 10,
      critical: null,
      hold: null,
      criticalHold: { m: 1, n: 1 },
      clear: { number: null, seconds: 30 },
      criticalClear: 22,
    }
    vi.mocked(api.limits).mockResolvedValue([kind, own] as Limit[])
    const it = draft()
    await flushPromises()
    it.draft.warning = 12
    await it.save()
    expect(vi.mocked(api.changeLimit).mock.calls[0]?.[1]).toMatchObject({
      warning: 12,
      critical: null,
      hold: null,
      criticalHold: { m: 1, n: 1 },
      clear: { number: 8, seconds: 30 },
      criticalClear: 22,
    })
  })

  it('begins with the numbers of the reach that is chosen', async () => {
    const kind = {
      ...stored(1, 'kind', 'postgresql'),
      warning: 20,
      critical: 40,
      hold: { m: 4, n: 6 },
    }
    vi.mocked(api.limits).mockResolvedValue([kind] as Limit[])
    const it = draft()
    await flushPromises()
    expect(it.draft).toMatchObject({ warning: 10, critical: 25 })
    it.draft.level = 'kind'
    await flushPromises()
    expect(it.draft).toMatchObject({ warning: 20, critical: 40, m: 4, n: 6, clear: null })
    it.draft.level = 'instance'
    await flushPromises()
    expect(it.draft).toMatchObject({ warning: 10, critical: 25, m: 2, n: 5 })
  })

  it('keeps what is being typed when the series are fetched anew', async () => {
    const it = draft()
    await flushPromises()
    it.draft.warning = 3
    series.value = { ...series.value, limits: [{ ...inForce }] }
    await flushPromises()
    expect(it.draft.warning).toBe(3)
  })

  it('says what was refused and keeps what was typed', async () => {
    vi.mocked(api.addLimit).mockRejectedValue(
      new Failure('Critical must be beyond warning.', 422, 'urn:jamjar:field', 'critical'),
    )
    const it = draft()
    await flushPromises()
    it.draft.critical = 1
    expect(await it.save()).toBe(false)
    expect(it.failure.value).toContain('beyond warning')
    expect(it.fault.value).toBe('critical')
    expect(it.draft.critical).toBe(1)
    expect(it.undo.value).toBeUndefined()
  })
})
