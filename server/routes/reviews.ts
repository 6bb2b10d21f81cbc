import { PAGE_LIMIT } from '../../contract/reviews.ts'
import { Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { freeze, publish, readPage, readReview, readReviewPhoto, readReviews } from '../store/reviews.ts'
import { plainText } from './router.ts'
import type { Serve } from './serve.ts'

const missing = (what: string, id: string) => new Refusal(404, 'Not found', `There is no ${what} ${id}.`)

/** Reviews, their photos, and what is frozen of them. */
export function reviewRoutes(on: Serve, db: Database): void {
  on('GET /api/reviews', ({ query }) => readReviews(db, query.trial))
  on('GET /api/reviews/:id', async ({ params: { id } }) => {
    const file = await readReview(db, id)
    if (!file) throw missing('review', id)
    return file
  })
  on('GET /api/review-photos/:id', async ({ params: { id } }, ctx) => {
    const photo = await readReviewPhoto(db, id)
    if (!photo) throw missing('photo', id)
    ctx.type = photo.kind
    ctx.set('cache-control', 'private, max-age=31536000, immutable')
    ctx.body = photo.bytes
  })
  on('PUT /api/revisions/:id', async ({ params: { id }, query }, ctx) => {
    const page = Buffer.from(plainText(ctx), 'utf8')
    if (page.length === 0)
      throw new Refusal(422, 'Some fields are not right', 'The page is empty.', [
        { path: '', message: 'must hold something' },
      ])
    if (page.length > PAGE_LIMIT)
      throw new Refusal(
        413,
        'Too large',
        `The page holds ${(page.length / 1e6).toFixed(0)} MB; it may hold ${PAGE_LIMIT / 1e6}. Leave out some photos.`,
      )
    return await freeze(db, id, query, page)
  })
  on('GET /api/revisions/:id/page', async ({ params: { id } }, ctx) => {
    const row = await readPage(db, id)
    if (!row) throw missing('revision', id)
    ctx.type = 'text/html; charset=utf-8'
    // a page that is only kept here must not run as one of this server’s own
    ctx.set('content-security-policy', ALONE)
    ctx.set('cache-control', 'private, no-cache')
    ctx.body = row.page
  })
  on('PUT /api/revisions/:id/publication', async ({ params: { id }, body: { published } }) => {
    const revision = await publish(db, id, published)
    if (!revision) throw missing('revision', id)
    return revision
  })
}

/** A frozen page runs alone: of no origin, so that it can ask this server for nothing; what it may do else it says itself. */
export const ALONE =
  "sandbox allow-scripts allow-popups allow-downloads; frame-ancestors 'none'; form-action 'none'; base-uri 'none'; connect-src 'none'"
