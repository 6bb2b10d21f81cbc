import { expect } from 'chai'
import fc from 'fast-check'
import escapeHtml from 'escape-html'
import { markdownFrom } from '../../web/stations/review/page/markdown.ts'

/** What stands outside of code, where nobody reads a tag as one. */
const outsideCode = (markdown: string) => markdown.replaceAll(/```[\s\S]*?```|`[^`\n]*`/g, '')
const TAG = /<\/?[a-z!?]/i

describe('a review as Markdown', () => {
  it('holds no HTML, whatever somebody wrote and wherever it stands', () => {
    const text = fc.oneof(
      fc.constantFrom(
        '<script>alert(1)</script>',
        '<img src=x onerror=alert(1)>',
        '&lt;b&gt;',
        '<!-- -->',
        '1. a',
        '# b',
        '|',
      ),
      fc.string({ unit: 'grapheme-ascii', maxLength: 20 }).filter((t) => !t.includes('`')),
    )
    const inside = fc.constantFrom(
      (t: string) => `<p>${t}</p>`,
      (t: string) => `<h2>${t}</h2>`,
      (t: string) => `<ul><li>${t}</li></ul>`,
      (t: string) => `<table><tr><td>${t}</td></tr></table>`,
      (t: string) =>
        `<table><thead><tr><th>${t}</th></tr></thead><tbody><tr><td><ul><li>${t}</li></ul></td></tr></tbody></table>`,
      (t: string) => `<dl><dt>${t}</dt><dd>${t}</dd></dl>`,
      (t: string) => `<figure><img src="photo-1.jpg" alt="${t}"><figcaption>${t}</figcaption></figure>`,
      (t: string) => `<details><summary>${t}</summary><custom-thing>${t}</custom-thing></details>`,
      (t: string) => `<p><a href="https://example.org/?q=${t}" title="${t}">${t}</a></p>`,
    )
    fc.assert(
      fc.property(text, inside, (t, put) => {
        expect(outsideCode(markdownFrom(put(escapeHtml(t))))).to.not.match(TAG)
      }),
      { numRuns: 400 },
    )
  })

  it('keeps what Markdown can say', () => {
    expect(markdownFrom('<h2>Turn</h2><p><strong>Slate</strong> is <em>more</em> stable.</p>')).to.equal(
      '## Turn\n\n**Slate** is _more_ stable.\n',
    )
    expect(
      markdownFrom(
        '<table><thead><tr><th>disc</th><th>turn</th></tr></thead><tbody><tr><td>Slate</td><td>-1</td></tr></tbody></table>',
      ),
    ).to.match(/\| disc \| turn \|\n\| --- \| --- \|\n\| Slate \| -1 +\|/)
    expect(markdownFrom('<p><img src="photo-1.jpg" alt="The rim"></p>')).to.equal('![The rim](photo-1.jpg)\n')
  })
})
