import { describe, expect, it } from 'vitest'
import type { InstanceBody } from '@/api/types'
import { generated, readerCommands, startOptions } from './readerCommands'

describe('commands for the other side', () => {
  it('name a password only where one was made for them', () => {
    expect(readerCommands('reader', 'db')).toContain("PASSWORD 'choose one'")
    expect(readerCommands('reader', 'db', 'abc')).toContain("PASSWORD 'abc'")
    const body = {
      endpoint: { host: 'h.invalid', port: 9010, tls: 'off' },
      credential: { user: 'reader' },
    } as InstanceBody
    expect(startOptions(body)).toContain('reader <the password>')
    expect(startOptions(body, 'abc')).toContain('reader abc')
  })

  it('get one of 24 signs that need no quoting and are not taken for each other, each time another', () => {
    const made = Array.from({ length: 200 }, generated)
    for (const one of made) expect(one).toMatch(/^[a-km-np-zA-HJ-NP-Z2-9]{24}$/)
    expect(new Set(made).size).toBe(200)
    expect(new Set(made.join('')).size).toBe(56)
  })
})
