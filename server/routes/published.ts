import { createHash } from 'node:crypto'
import escapeHtml from 'escape-html'
import { Feed } from 'feed'
import { storable } from '../../core/formats/csvCells.ts'
import { plainXml } from '../../core/formats/plainXml.ts'
import type { Database } from '../store/database.ts'
import { readListed, readPublished } from '../store/reviews.ts'
import { ALONE } from './reviews.ts'
import type { Ctx } from './router.ts'
import type { Serve } from './serve.ts'

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  timeZone: 'UTC',
})

/** How the list looks; a page of its own, that takes nothing of the app’s. */
const STYLE = `
:root { color-scheme: light dark; --ground: #f3f5f1; --ink: #1d2a2c; --quiet: #5c6765; --rule: #d9ded6 }
@media (prefers-color-scheme: dark) { :root { --ground: #10191a; --ink: #e9efec; --quiet: #a3b1ae; --rule: #2c3b3f } }
body { margin: 0 auto; max-width: 44rem; padding: 2rem 1.2rem 4rem; font: 1.05rem/1.5 system-ui, sans-serif; background: var(--ground); color: var(--ink) }
ul { list-style: none; padding: 0 }
li { border-top: 1px solid var(--rule); padding: .8rem 0 }
li a { display: block; font-size: 1.2rem; font-weight: 650; color: inherit; text-underline-offset: 4px }
li span, p { color: var(--quiet) }
a { color: inherit }
`
const STYLE_HASH = `'sha256-${createHash('sha256').update(STYLE).digest('base64')}'`

/** A text as readers of feeds take it, who read a title as HTML. */
const plain = (text: string) => escapeHtml(plainXml(text))

/** What anyone may read who has the address: frozen reviews that were published, a list of those that may be listed, and its feed. */
export function publishedRoutes(on: Serve, db: Database): void {
  const originOf = (ctx: Pick<Ctx, 'protocol' | 'host'>) => `${ctx.protocol}://${ctx.host}`

  on('GET /published', async (_, ctx) => {
    const rows = await readListed(db)
    ctx.type = 'text/html; charset=utf-8'
    ctx.set(
      'content-security-policy',
      `default-src 'none'; style-src ${STYLE_HASH}; frame-ancestors 'none'; base-uri 'none'`,
    )
    ctx.body = `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta name="color-scheme" content="light dark">
<title>Published reviews</title>
<style>${STYLE}</style>
<link rel="alternate" type="application/atom+xml" href="/published/feed.xml" title="Published reviews">
<h1>Published reviews</h1>
${
  rows.length === 0
    ? '<p>No review is listed here yet.</p>'
    : `<ul>${rows
        .map(
          (r) =>
            `<li><a href="/published/${r.token}">${escapeHtml(r.title)}</a><span>${DAY.format(new Date(r.publishedAt!))}${r.number > 1 ? `, revision ${r.number}: ${escapeHtml(r.note)}` : ''}</span></li>`,
        )
        .join('')}</ul>`
}
<p><a href="/published/feed.xml">Feed</a></p>
</html>
`
  })
  on('GET /published/feed.xml', async (_, ctx) => {
    const rows = await readListed(db)
    const origin = originOf(ctx)
    const feed = new Feed({
      id: `${origin}/published`,
      title: 'Published reviews',
      link: `${origin}/published`,
      feedLinks: { atom: `${origin}/published/feed.xml` },
      copyright: '',
      updated: new Date(rows[0]?.publishedAt ?? 0),
    })
    for (const r of rows)
      feed.addItem({
        id: `urn:uuid:${r.reviewId}`,
        title: plain(r.title),
        link: `${origin}/published/${r.token}`,
        date: new Date(r.publishedAt!),
        ...(r.note && { description: plain(r.note) }),
      })
    ctx.type = 'application/atom+xml; charset=utf-8'
    ctx.body = feed.atom1()
  })
  on('GET /published/:token', async ({ params }, ctx) => {
    const token = params.token!
    const row = storable(token) ? await readPublished(db, token) : undefined
    ctx.set('cache-control', 'no-cache')
    if (!row) {
      ctx.status = 404
      ctx.body = 'Nothing is published at this address, or it was taken back.'
      return
    }
    ctx.type = 'text/html; charset=utf-8'
    ctx.set('content-security-policy', ALONE)
    ctx.set('referrer-policy', 'no-referrer')
    if (!row.listed) ctx.set('x-robots-tag', 'noindex, nofollow, noarchive')
    ctx.body = row.page
  })
}
