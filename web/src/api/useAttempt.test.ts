import { describe, expect, it, vi } from 'vitest'
import { useAttempt } from './useAttempt'

describe('an attempt', () => {
  it('tells what was refused until the next, and fetches again whatever came of it', async () => {
    const afterwards = vi.fn()
    const { refused, attempt } = useAttempt(afterwards)
    expect(await attempt(() => Promise.reject(new Error('it is taken')))).toBe(false)
    expect(refused.value).toContain('it is taken')
    expect(await attempt(() => Promise.resolve('done'))).toBe(true)
    expect(refused.value).toBe('')
    expect(afterwards).toHaveBeenCalledTimes(2)
  })
})
