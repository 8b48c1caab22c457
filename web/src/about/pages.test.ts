import { describe, expect, it } from 'vitest'
import { htmlOf, PAGES } from './pages'

describe('the documentation as pages', () => {
  it('links pages to each other, and names what is not there without a link', () => {
    expect(htmlOf('see [docs](docs/operation.md#folders) and [them](measured/x.txt)')).toBe(
      '<p>see <a class="link" href="/about?page=operation#folders">docs</a> and them</p>\n',
    )
  })

  it('leaves pictures out and has one first heading, that of the page', () => {
    expect(htmlOf('# One, two\n\n![x](y.png)')).toBe('<h2 id="one-two">One, two</h2>\n<p></p>\n')
  })

  it('has each page, none of them with a link that leads nowhere', () => {
    for (const page of PAGES.filter((one) => one.text)) {
      const html = htmlOf(page.text)
      const ids = [...html.matchAll(/ id="([^"]*)"/g)].map((found) => found[1])
      for (const [, anchor] of html.matchAll(/href="#([^"]*)"/g)) expect(ids).toContain(anchor)
      for (const [, key, anchor] of html.matchAll(/href="\/about\?page=([a-z]+)#([^"]*)"/g)) {
        const other = PAGES.find((one) => one.key === key)
        expect(htmlOf(other?.text ?? '')).toContain(` id="${anchor}"`)
      }
      expect(html.length).toBeGreaterThan(1000)
    }
  })
})
