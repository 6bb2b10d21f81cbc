import type Router from '@koa/router'
import escapeHtml from 'escape-html'
import { Feed } from 'feed'
import type { Database } from '../store/database.ts'
import { readListed, readPublished } from '../store/reviews.ts'
import { ALONE } from './reviews.ts'
import type { Ctx } from './router.ts'

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  timeZone: 'UTC',
})

/** What anyone may read who has the address: frozen reviews that were published, a list of those that may be listed, and its feed. */
export function publishedRoutes(router: Router, db: Database): void {
  const originOf = (ctx: Pick<Ctx, 'protocol' | 'host'>) => `${ctx.protocol}://${ctx.host}`

  router.get('/published', async (ctx) => {
    const rows = await readListed(db)
    ctx.type = 'text/html; charset=utf-8'
    ctx.set('content-security-policy', "default-src 'none'; frame-ancestors 'none'")
    ctx.body = `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta name="color-scheme" content="light dark">
<title>Published reviews</title>
<link rel="alternate" type="application/atom+xml" href="/published/feed.xml" title="Published reviews">
<h1>Published reviews</h1>
${
  rows.length === 0
    ? '<p>No review is listed here yet.</p>'
    : `<ul>${rows
        .map(
          (r) =>
            `<li><a href="/published/${r.token}">${escapeHtml(r.title)}</a>, ${DAY.format(new Date(r.publishedAt!))}${r.number > 1 ? `, revision ${r.number}: ${escapeHtml(r.note)}` : ''}</li>`,
        )
        .join('')}</ul>`
}
<p><a href="/published/feed.xml">Feed</a></p>
</html>
`
  })
  router.get('/published/feed.xml', async (ctx) => {
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
        title: r.title,
        link: `${origin}/published/${r.token}`,
        date: new Date(r.publishedAt!),
        ...(r.note && { description: r.note }),
      })
    ctx.type = 'application/atom+xml; charset=utf-8'
    ctx.body = feed.atom1()
  })
  router.get('/published/:token', async (ctx: Ctx) => {
    const row = await readPublished(db, ctx.params['token']!)
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
