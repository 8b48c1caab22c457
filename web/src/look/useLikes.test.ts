import { beforeEach, expect, test, vi } from 'vitest'
import type { Likes, LikesChange } from '@/api/types'

const sent: { change: LikesChange; answer: (e?: unknown) => void }[] = []

vi.mock('@/api/client', () => ({
  api: {
    like: (change: LikesChange) =>
      new Promise((done, failed) =>
        sent.push({ change, answer: (e) => (e ? failed(e) : done(change as Likes)) }),
      ),
  },
  fieldOf: (e: unknown) => (e as { field?: string }).field,
}))

const { useLikes } = await import('./useLikes')

beforeEach(() => sent.splice(0))

test('each choice goes by itself, one after the other', async () => {
  const { likes, choose } = useLikes()
  const one = choose({ theme: 'dark' })
  const two = choose({ firstView: 'alerts' })
  await vi.waitFor(() => expect(sent.length).toBe(1))
  expect(sent[0]!.change).toEqual({ theme: 'dark' })
  expect(likes.value).toMatchObject({ theme: 'dark', firstView: 'alerts' })
  sent[0]!.answer()
  await vi.waitFor(() => expect(sent.length).toBe(2))
  expect(sent[1]!.change).toEqual({ firstView: 'alerts' })
  sent[1]!.answer()
  await Promise.all([one, two])
})

test('what is refused takes back itself alone', async () => {
  const { likes, choose } = useLikes()
  const one = choose({ zone: 'Atlantis/Capital' })
  const two = choose({ theme: 'light' })
  await vi.waitFor(() => expect(sent.length).toBe(1))
  sent[0]!.answer({ field: 'zone' })
  await expect(one).rejects.toEqual({ field: 'zone' })
  await vi.waitFor(() => expect(sent.length).toBe(2))
  sent[1]!.answer()
  await two
  expect(likes.value.zone).toBe('')
  expect(likes.value.theme).toBe('light')
})
