import { describe, expect, it } from 'vitest'
import { iso, toCsv } from './csv'

describe('rows as comma-separated values', () => {
  const row = { text: 'select "a",\n b', pid: 4377, none: null, user: '=cmd()' }

  it('quotes what would break a line or a column', () => {
    expect(toCsv([['statement', (r: typeof row) => r.text]], [row])).toBe(
      'statement\r\n"select ""a"",\n b"\r\n',
    )
  })

  it('leaves out what is not known, and lets nothing be run', () => {
    expect(
      toCsv(
        [
          ['pid', (r: typeof row) => r.pid],
          ['none', (r: typeof row) => r.none],
          ['user', (r: typeof row) => r.user],
        ],
        [row],
      ),
    ).toBe("pid,none,user\r\n4377,,'=cmd()\r\n")
    expect(iso(0)).toBe('1970-01-01T00:00:00.000Z')
  })
})
