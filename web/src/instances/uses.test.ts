import { describe, expect, it } from 'vitest'
import type { Instance } from '@/api/types'
import { usedOf, usersOf, usesOf } from './uses'

const made = (id: number, name: string, uses: string[] = []) => ({ id, name, uses }) as Instance

describe('links between instances', () => {
  const db = made(1, 'booking-db-a')
  const server = made(2, 'booking-1', ['bookingPool=booking-db-a', 'old-db'])
  const all = [db, server]

  it('name the pool that leads there, and what is not under watch', () => {
    expect(usesOf(server, all)).toEqual([
      { name: 'booking-db-a', through: 'bookingPool', instance: db },
      { name: 'old-db', through: '', instance: undefined },
    ])
  })

  it('are told once where several pools lead to the same one', () => {
    const two = made(3, 'booking-2', ['a=booking-db-a', 'b=booking-db-a'])
    expect(usedOf(two, all)).toEqual([{ name: 'booking-db-a', through: 'a, b', instance: db }])
  })

  it('are seen from the other end', () => {
    expect(usersOf(db, all)).toEqual([server])
    expect(usersOf(server, all)).toEqual([])
  })
})
