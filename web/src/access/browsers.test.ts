import { describe, expect, it } from 'vitest'
import { browserInWords } from './browsers'

describe('browsers', () => {
  it('are called as a person would', () => {
    const says = (rest: string) => `Mozilla/5.0 ${rest}`
    expect(browserInWords(says('(X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0'))).toBe(
      'Firefox on Linux',
    )
    expect(
      browserInWords(says('(Windows NT 10.0) AppleWebKit/537.36 Chrome/140 Safari/537.36 Edg/140')),
    ).toBe('Edge on Windows')
    expect(
      browserInWords(says('(Linux; Android 15) AppleWebKit/537.36 Chrome/140 Safari/537.36')),
    ).toBe('Chrome on Android')
    expect(browserInWords('curl/8')).toBe('curl/8')
    expect(browserInWords('')).toBe('not told')
  })
})
