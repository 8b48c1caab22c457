import { describe, expect, it } from 'vitest'
import { number, onAxis, plain, range, span, windowInWords } from './format'

describe('numbers', () => {
  it('says the unit of a range once, and a number that was set without trailing zeros', () => {
    expect(range(0.0038, 0.0061, 's')).toBe('3.80 – 6.10 ms')
    expect(range(0.0008, 0.0061, 's')).toBe('800 µs – 6.10 ms')
    expect(range(0, 2, '')).toBe('0 – 2')
    expect(range(0, 0, '')).toBe('0')
    expect(range(31, 44, '/s')).toBe('31.0 – 44.0 /s')
    expect(plain(85, '%')).toBe('85 %')
    expect(plain(1800, 's')).toBe('30 min')
    expect(plain(0.5, '/s')).toBe('0.5 /s')
  })

  it('shows whole counts exactly to 99 999', () => {
    expect(number(0, '')).toBe('0')
    expect(number(9_999, '')).toBe('9999')
    expect(number(99_999, '')).toBe('99\u202f999')
    expect(number(123_456, '')).toBe('123 k')
  })

  it('shows three significant figures with their unit', () => {
    expect(number(1.2449, 's')).toBe('1.24 s')
    expect(number(0.0000652, 's')).toBe('65.2 µs')
    expect(number(412.4, '/s')).toBe('412 /s')
    // just under a power of ten
    expect(number(0.09999, '/s')).toBe('0.100 /s')
    expect(number(0, '/s')).toBe('0 /s')
    expect(number(1740, 's')).toBe('29.0 min')
  })

  it('shows bytes binary', () => {
    expect(number(40_056_627, 'B')).toBe('38.2 MiB')
    expect(number(1023, 'B')).toBe('1023 B')
    expect(number(1024, 'B/s')).toBe('1.00 KiB/s')
  })

  it('rounds nothing up to the whole that is short of it', () => {
    expect(number(99.999, '%')).toBe('99.99 %')
    expect(number(100, '%')).toBe('100 %')
    expect(number(96.64, '%')).toBe('96.6 %')
  })
})

describe('times', () => {
  it('says how long in one unit', () => {
    expect(span(4_400)).toBe('4 s')
    expect(span(34 * 60_000)).toBe('34 min')
    expect(span(76 * 3_600_000)).toBe('3 d')
  })

  it('names the day once where both ends share it', () => {
    const from = new Date(2026, 10, 24, 1, 40).getTime()
    expect(windowInWords(from, from + 3_600_000)).toBe('Tue 24 Nov, 01:40 – 02:40')
    expect(windowInWords(from - 7_200_000, from)).toBe('Mon 23 Nov 23:40 – Tue 24 Nov 01:40')
  })
})

describe('axes', () => {
  it('leaves out what the title says already', () => {
    expect(onAxis(20, '%')).toBe('20 %')
    expect(onAxis(2.5, '/s')).toBe('2.5')
    expect(onAxis(100, '/s')).toBe('100')
    expect(onAxis(1024 * 1024, 'B/s')).toBe('1 MiB')
    expect(onAxis(0.04, 's')).toBe('40 ms')
  })
})
