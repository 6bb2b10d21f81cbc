import { createHash } from 'node:crypto'
import { DOMParser } from '@xmldom/xmldom'
import { expect } from 'chai'
import escapeHtml from 'escape-html'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { ReviewFile, Revision } from '../../contract/reviews.ts'
import type { Review, ReviewSection } from '../../contract/reviews.ts'
import { doc, live, paragraph } from '../../core/review/document.ts'
import type { DocNode } from '../../core/review/document.ts'
import { makeApp } from '../../server/app.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

const PIXEL =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='

describe('reviews', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(60_000)
    it_ = await demoServer()
  })
  after(() => it_.stop())
  const api = () => request(it_.server)
  const trial = newId()
  const review: Review = {
    id: newId(),
    title: 'Two Flints',
    trialIds: [trial],
    units: 'metric',
    listed: false,
    removedAt: null,
  }
  const sectionOf = (words: string, over: Partial<ReviewSection> = {}): ReviewSection => ({
    id: newId(),
    reviewId: review.id,
    kind: 'found',
    place: 1,
    title: 'What was found',
    body: doc(paragraph(words)),
    verdicts: null,
    hidden: false,
    removedAt: null,
    version: 0,
    ...over,
  })
  const put = (path: string, body: object, status = 200) => api().put(path).send(body).expect(status)
  const putSection = async (row: ReviewSection, status = 200) =>
    (await put(`/api/review-sections/${row.id}`, row, status)).body as ReviewSection
  const read = async (id = review.id) =>
    ReviewFile.parse((await api().get(`/api/reviews/${id}`).expect(200)).body)

  before(async () => {
    await put(`/api/reviews/${review.id}`, review)
  })

  it('are kept with their sections, in order, and found by the trials they are about', async () => {
    const [one, other] = [sectionOf('First.', { place: 2 }), sectionOf('Second.', { place: 1 })]
    expect((await putSection(one)).version).equal(1)
    await putSection(other)
    const file = await read()
    expect(file.sections.map((s) => s.id)).deep.equal([other.id, one.id])
    expect(file.sections[1]!.body).deep.equal(one.body)
    const of = async (id: string) =>
      ((await api().get(`/api/reviews?trial=${id}`).expect(200)).body as { review: Review }[]).map(
        (r) => r.review.id,
      )
    expect(await of(trial)).deep.equal([review.id])
    expect(await of(newId())).deep.equal([])
    await api().get(`/api/reviews/${newId()}`).expect(404)
    await putSection({ ...one, version: 1, removedAt: '2026-11-27T10:00:00.000Z' })
    expect((await read()).sections.map((s) => s.id)).deep.equal([other.id])
  })

  it('keep what both of two devices wrote: the later one stands beside the first, once however often it is sent', async () => {
    const row = sectionOf('As it was.')
    const first = await putSection(row)
    const [here, there] = ['Written here.', 'Written there.'].map((words) => ({
      ...first,
      body: doc(paragraph(words)),
    }))
    expect((await putSection(here!)).version).equal(2)
    const answered = await putSection(there!)
    expect(answered).deep.include({ kind: 'own', version: 1, body: there!.body })
    expect(answered.id).not.equal(row.id)
    expect(await putSection(there!)).deep.equal(answered)
    const { sections } = await read()
    const at = sections.findIndex((s) => s.id === row.id)
    expect(sections[at]!.body).deep.equal(here!.body)
    expect(sections[at + 1]).deep.include({ kind: 'own', title: 'What was found, from another device' })
    expect(sections[at + 1]!.body).deep.equal(there!.body)
    expect(sections.filter((s) => s.title.endsWith('from another device'))).lengthOf(1)
    // a write whose acknowledgement was lost is the same write, and one that only moves a section takes nothing
    expect((await putSection(here!)).version).equal(2)
    await putSection({ ...first, body: here!.body, place: 9 })
    expect((await read()).sections.filter((s) => s.title.endsWith('from another device'))).lengthOf(1)
  })

  it('refuse what a review cannot hold, in a sentence, and store none of it', async () => {
    const linked = (href: string): DocNode =>
      doc({
        type: 'paragraph',
        content: [{ type: 'text', text: 'here', marks: [{ type: 'link', attrs: { href } }] }],
      })
    let deep: DocNode = paragraph('x')
    for (let i = 0; i < 40; i++) deep = { type: 'blockquote', content: [deep] }
    const bad: readonly (readonly [unknown, RegExp])[] = [
      [doc({ type: 'script', text: 'alert(1)' }), /not something a review can hold/],
      [linked('javascript:alert(1)'), /a link must begin with https:/],
      [linked('file:///etc/passwd'), /a link must begin with/],
      [doc({ type: 'image', attrs: { src: 'https://example.org/x.svg' } }), /must be a photo of this review/],
      [doc({ type: 'image', attrs: { src: 'data:image/svg+xml,<svg onload=alert(1)>' } }), /must be a photo/],
      [doc(live('not a trial', 'answer')), /must be a UUID/],
      [doc(live(trial, 'everything' as 'answer')), /view/],
      [doc(deep), /nested at most 12 deep/],
      [paragraph('no document'), /must be a document/],
      ['words', /./],
    ]
    for (const [body, said] of bad) {
      const row = { ...sectionOf('x'), body }
      const refused = await put(`/api/review-sections/${row.id}`, row, 422)
      expect(JSON.stringify(refused.body)).match(said)
      expect((await read()).sections.some((s) => s.id === row.id)).equal(false)
    }
    await putSection({ ...sectionOf('x'), body: linked('https://example.org/') })
    await put(`/api/reviews/${review.id}`, { ...review, trialIds: [] }, 422)
    await put(`/api/reviews/${review.id}`, { ...review, title: ' ' }, 422)
  })

  it('hold photos, give them back as they were sent, and take no drawing with a script', async () => {
    const id = newId()
    const photo = { kind: 'image/png', base64: PIXEL }
    await put(`/api/review-photos/${id}`, { id, reviewId: review.id, photo })
    const back = await api().get(`/api/review-photos/${id}`).expect(200)
    expect(back.headers['content-type']).equal('image/png')
    expect((back.body as Buffer).toString('base64')).equal(PIXEL)
    await put(
      `/api/review-photos/${id}`,
      { id, reviewId: review.id, photo: { ...photo, kind: 'image/svg+xml' } },
      422,
    )
    await put(`/api/review-photos/${id}`, { id, reviewId: review.id, photo: null })
    await api().get(`/api/review-photos/${id}`).expect(404)
  })

  describe('frozen', () => {
    const page = (words: string) => `<!doctype html><title>${words}</title><p>ö</p>`
    const freeze = (id: string, html: string, query: Record<string, string> = {}, status = 200) =>
      api()
        .put(`/api/revisions/${id}`)
        .query({ reviewId: review.id, method: 'rating 3', ...query })
        .set('content-type', 'text/html; charset=utf-8')
        .send(html)
        .expect(status)
    const [one, two] = [newId(), newId()]
    const bytesOf = async (id: string) => (await api().get(`/api/revisions/${id}/page`).expect(200)).text

    it('are numbered, say what changed, and stay as they are whatever is done afterwards', async () => {
      const first = Revision.parse((await freeze(one, page('One'))).body)
      expect(first).deep.include({ number: 1, note: '', method: 'rating 3', token: null })
      expect(first.sha256).equal(createHash('sha256').update(page('One'), 'utf8').digest('hex'))
      // the same once more is the same; something else under its name is refused
      expect((await freeze(one, page('One'))).body).deep.equal(first)
      const other = await freeze(one, page('Other'), {}, 409)
      expect((other.body as { detail: string }).detail).equal('This revision is frozen; freeze another one.')
      const silent = await freeze(two, page('Two'), {}, 409)
      expect((silent.body as { detail: string }).detail).contain('says in words what changed')
      const second = Revision.parse((await freeze(two, page('Two'), { note: 'Ten more throws.' })).body)
      expect(second.number).equal(2)
      await put(`/api/reviews/${review.id}`, { ...review, title: 'Renamed' })
      expect(await bytesOf(one)).equal(page('One'))
      expect(await bytesOf(two)).equal(page('Two'))
      expect((await read()).revisions.map((r) => r.number)).deep.equal([2, 1])
      // and another server on the same database, as after a restart
      const again = makeApp({ db: it_.db, works: it_.works, quiet: true }).callback()
      const served = await request(again).get(`/api/revisions/${one}/page`).expect(200)
      expect(served.text).equal(page('One'))
      expect(createHash('sha256').update(served.text, 'utf8').digest('hex')).equal(first.sha256)
    })

    it('are refused where there is nothing to freeze, or too much', async () => {
      await freeze(newId(), page('x'), { reviewId: newId() }, 409)
      await freeze(newId(), '', {}, 422)
      await api().put(`/api/revisions/${newId()}`).send({ page: 'x' }).expect(415)
      const huge = await freeze(newId(), 'x'.repeat(24_000_001), {}, 413)
      expect((huge.body as { detail: string }).detail).match(/at most|may hold/)
      await api().get(`/api/revisions/${newId()}/page`).expect(404)
    })

    it('are published under an address nobody guesses, replaced under the same one, and taken back', async () => {
      const publication = async (id: string, published: boolean) =>
        Revision.parse((await put(`/api/revisions/${id}/publication`, { published })).body)
      await api().get('/published/guess').expect(404)
      const { token } = await publication(one, true)
      expect(token).match(/^[\w-]{32}$/)
      const out = await api().get(`/published/${token}`).expect(200)
      expect(out.text).equal(page('One'))
      expect(out.headers['x-robots-tag']).contain('noindex')
      // of no origin: it can ask this server for nothing
      expect(out.headers['content-security-policy']).match(/^sandbox allow-scripts(?!.*same-origin)/)
      expect((await publication(two, true)).token).equal(token)
      expect((await api().get(`/published/${token}`)).text).equal(page('Two'))
      expect((await read()).revisions.map((r) => r.token)).deep.equal([token, null])
      expect((await publication(two, false)).token).equal(null)
      await api().get(`/published/${token}`).expect(404)
      await put(`/api/revisions/${newId()}/publication`, { published: true }, 404)
    })

    it('are listed and fed only where the reviewer lets them be, with what could break a page written as text', async () => {
      await put(`/api/revisions/${two}/publication`, { published: true })
      expect((await api().get('/published').expect(200)).text).contain('No review is listed here yet')
      const title = 'Flint <script>alert(1)</script> & ]]> Ash'
      await put(`/api/reviews/${review.id}`, { ...review, title, listed: true })
      const list = (await api().get('/published').expect(200)).text
      expect(list).contain('Flint &lt;script&gt;alert(1)&lt;/script&gt; &amp; ]]&gt; Ash')
      expect(list).contain('revision 2: Ten more throws.')
      const feed = await api().get('/published/feed.xml').expect(200)
      expect(feed.headers['content-type']).contain('application/atom+xml')
      expect(feed.text).contain('<feed xmlns="http://www.w3.org/2005/Atom">')
      const xml = new DOMParser().parseFromString(feed.text, 'text/xml')
      // readers of feeds take a title for HTML: what would be a tag is written so that it is read as it was written
      const fed = xml.getElementsByTagName('entry')[0]!.getElementsByTagName('title')[0]!
      expect(fed.getAttribute('type')).equal('html')
      expect(fed.textContent).equal(escapeHtml(title))
      const token = /\/published\/([\w-]{32})/.exec(list)![1]!
      expect((await api().get(`/published/${token}`)).headers).not.have.property('x-robots-tag')
      await put(`/api/reviews/${review.id}`, { ...review, removedAt: '2026-11-27T10:00:00.000Z' })
      await api().get(`/published/${token}`).expect(404)
    })
  })
})
