import { marked, Renderer } from 'marked'
import readme from '../../../README.md?raw'
import computation from '../../../docs/computation.md?raw'
import operation from '../../../docs/operation.md?raw'
import permits from '../../../docs/permits.md?raw'
import postgresql from '../../../docs/postgresql.md?raw'
import recipes from '../../../docs/recipes.md?raw'
import licence from '../../../LICENSE?raw'

/** The documentation that ships with it, as it lies beside the source. */
export const PAGES = [
  { key: 'how', words: 'How to …', text: readme },
  { key: 'computation', words: 'What is computed, and how', text: computation },
  { key: 'operation', words: 'Operation', text: operation },
  { key: 'permits', words: 'Who may ask what', text: permits },
  { key: 'recipes', words: 'Recipe files', text: recipes },
  { key: 'postgresql', words: 'What practitioners know', text: postgresql },
  { key: 'licence', words: 'Licence', text: '' },
]
export const LICENCE = licence

/** What a heading is called in an address. */
export const anchorOf = (heading: string) =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N} -]/gu, '')
    .trim()
    .replace(/ /g, '-')

/**
 * A page as HTML. Links among the pages lead to them; what lies beside the source alone is named,
 * without a link; pictures are left out.
 */
export function htmlOf(text: string): string {
  const renderer = new Renderer()
  renderer.image = () => ''
  renderer.heading = function ({ tokens, depth, text: words }) {
    // the name of the page is the only first heading
    const level = Math.min(6, depth + 1)
    return `<h${level} id="${anchorOf(words)}">${this.parser.parseInline(tokens)}</h${level}>\n`
  }
  renderer.link = function ({ href, tokens }) {
    const words = this.parser.parseInline(tokens)
    const page = /^(?:docs\/)?([a-z]+)\.md(#.*)?$/.exec(href)
    if (page && PAGES.some((one) => one.key === page[1])) {
      return `<a class="link" href="/about?page=${page[1]}${page[2] ?? ''}">${words}</a>`
    }
    if (href.startsWith('#')) return `<a class="link" href="${href}">${words}</a>`
    return words
  }
  return marked.parse(text, { renderer, async: false })
}
