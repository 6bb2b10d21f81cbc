import type Router from '@koa/router'
import { Freezing, PAGE_LIMIT, Publication } from '../../contract/reviews.ts'
import { Id } from '../../contract/shelf.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { freeze, publish, readPage, readReview, readReviewPhoto, readReviews } from '../store/reviews.ts'
import type { Ctx } from './router.ts'

const missing = (what: string, id: string) => new Refusal(404, 'Not found', `There is no ${what} ${id}.`)

/** Reviews, their photos, and what is frozen of them. */
export function reviewRoutes(router: Router, db: Database): void {
  const idAt = (ctx: Ctx) => parse(Id, ctx.params['id'])

  router.get('/api/reviews', async (ctx) => {
    const { trial } = ctx.query
    ctx.body = await readReviews(db, trial === undefined ? undefined : parse(Id, trial))
  })
  router.get('/api/reviews/:id', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const file = await readReview(db, id)
    if (!file) throw missing('review', id)
    ctx.body = file
  })
  router.get('/api/review-photos/:id', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const photo = await readReviewPhoto(db, id)
    if (!photo) throw missing('photo', id)
    ctx.type = photo.kind
    ctx.set('cache-control', 'private, max-age=31536000, immutable')
    ctx.body = photo.bytes
  })
  router.put('/api/revisions/:id', async (ctx: Ctx) => {
    const { body } = ctx.request
    if (!ctx.is('text/html') || typeof body !== 'string' || body === '')
      throw new Refusal(415, 'Unknown kind of content', 'Send the page as text/html.')
    const page = Buffer.from(body, 'utf8')
    if (page.length > PAGE_LIMIT)
      throw new Refusal(
        413,
        'Too large',
        `The page holds ${(page.length / 1e6).toFixed(0)} MB; it may hold ${PAGE_LIMIT / 1e6}. Leave out some photos.`,
      )
    ctx.body = await freeze(db, idAt(ctx), parse(Freezing, { ...ctx.query }), page)
  })
  router.get('/api/revisions/:id/page', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const row = await readPage(db, id)
    if (!row) throw missing('revision', id)
    ctx.type = 'text/html; charset=utf-8'
    // a page that is only kept here must not run as one of this server’s own
    ctx.set('content-security-policy', ALONE)
    ctx.set('cache-control', 'private, no-cache')
    ctx.body = row.page
  })
  router.put('/api/revisions/:id/publication', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const { published } = parse(Publication, ctx.request.body)
    const revision = await publish(db, id, published)
    if (!revision) throw missing('revision', id)
    ctx.body = revision
  })
}

/** A frozen page runs alone: of no origin, so that it can ask this server for nothing; what it may do else it says itself. */
export const ALONE =
  "sandbox allow-scripts allow-popups allow-downloads; frame-ancestors 'none'; form-action 'none'; base-uri 'none'; connect-src 'none'"
