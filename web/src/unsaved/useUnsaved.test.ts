// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'

const { confirm, guards } = vi.hoisted(() => ({
  confirm: vi.fn(),
  guards: [] as ((to: { path: string; query: object }) => Promise<boolean>)[],
}))
vi.mock('element-plus', () => ({ ElMessageBox: { confirm } }))
vi.mock('vue-router', () => ({
  useRouter: () => ({
    beforeEach: (guard: (typeof guards)[0]) => {
      guards.push(guard)
      return () => guards.splice(guards.indexOf(guard), 1)
    },
  }),
}))
const { useUnsaved } = await import('./useUnsaved')

describe('text that was not saved', () => {
  beforeEach(() => confirm.mockReset())

  function form() {
    const text = ref('')
    const scope = effectScope()
    const use = scope.run(() =>
      useUnsaved(
        () => text.value,
        'the note',
        (to) => to.path !== '/a',
      ),
    )!
    return { text, scope, ...use }
  }

  it('is asked for before it is lost, and only then', async () => {
    const { text, closing, isKept, scope } = form()
    const close = vi.fn()
    closing(close)
    await vi.waitFor(() => expect(close).toHaveBeenCalledTimes(1))
    expect(confirm).not.toHaveBeenCalled()

    text.value = 'typed'
    confirm.mockRejectedValueOnce('cancel')
    closing(close)
    await vi.waitFor(() => expect(confirm).toHaveBeenCalledTimes(1))
    expect(close).toHaveBeenCalledTimes(1)

    isKept()
    closing(close)
    await vi.waitFor(() => expect(close).toHaveBeenCalledTimes(2))
    scope.stop()
  })

  it('keeps its page and its tab, and lets go of both with its form', async () => {
    const { text, scope } = form()
    text.value = 'typed'
    expect(await guards[0]!({ path: '/a', query: {} })).toBe(true)
    confirm.mockRejectedValueOnce('cancel')
    expect(await guards[0]!({ path: '/b', query: {} })).toBe(false)
    const leaving = new Event('beforeunload', { cancelable: true })
    window.dispatchEvent(leaving)
    expect(leaving.defaultPrevented).toBe(true)
    confirm.mockResolvedValueOnce('confirm')
    expect(await guards[0]!({ path: '/b', query: {} })).toBe(true)
    scope.stop()
    expect(guards).toHaveLength(0)
  })
})
