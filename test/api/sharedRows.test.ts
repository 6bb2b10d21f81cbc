import { expect } from 'chai'
import fc from 'fast-check'
import { sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import type { Offer, Pass } from '../../contract/crew.ts'
import type { Problem } from '../../contract/problems.ts'
import { DEVICE_HEADER } from '../../contract/news.ts'
import type { ReviewFile, ReviewSection } from '../../contract/reviews.ts'
import type { Disc, Shelf } from '../../contract/shelf.ts'
import type { Session, TrialFile, TrialSummary } from '../../contract/trials.ts'
import { merged } from '../../server/store/merging.ts'
import { sharedServer } from './shared.ts'
import type { Answer, SharedServer } from './shared.ts'

const PASSPHRASE = 'nine herons at the weir'
const json = { 'content-type': 'application/json' }
type Row = { readonly id: string } & Readonly<Record<string, unknown>>

describe('what two sides made of one row', () => {
  it('keeps every change of either side that the other did not make otherwise', () => {
    const field = fc.constantFrom('a', 'b', 'c', 'd')
    const row = fc.dictionary(field, fc.integer({ min: 0, max: 2 }), { noNullPrototype: true })
    fc.assert(
      fc.property(row, row, row, (base, mine, theirs) => {
        const { row: both, crossed } = merged(base, mine, theirs)
        for (const [key, value] of Object.entries(mine)) {
          const [wasMine, wasTheirs] = [
            value !== (base[key] ?? null),
            (theirs[key] ?? null) !== (base[key] ?? null),
          ]
          if (wasMine && wasTheirs && theirs[key] !== value) expect(crossed).to.include(key)
          else expect(both[key] ?? null).to.equal(wasMine ? value : (theirs[key] ?? null))
        }
      }),
    )
  })
})

describe('one row, several people', () => {
  let it_: SharedServer
  const cookies: Record<string, string> = {}
  const devices: Record<string, string> = { owner: newId(), tablet: newId(), scribe: newId() }

  const asked = (
    method: string,
    where: string,
    body: unknown,
    as: 'owner' | 'tablet' | 'scribe',
  ): Promise<Answer> =>
    it_.ask(method, where, body, {
      cookie: cookies[as === 'tablet' ? 'owner' : as],
      headers: { [DEVICE_HEADER]: devices[as]! },
    })
  const put = (kind: string, row: Row, as: 'owner' | 'tablet' | 'scribe' = 'owner') =>
    asked('PUT', `/api/${kind}/${row.id}`, row, as)
  const stored = async <T extends Row>(
    kind: string,
    row: Row,
    as: 'owner' | 'tablet' | 'scribe' = 'owner',
  ) => {
    const answer = await put(kind, row, as)
    expect(answer.status, answer.text).to.equal(200)
    return answer.body as T
  }
  const read = async <T>(where: string) => (await asked('GET', where, undefined, 'owner')).body as T

  before(async () => {
    it_ = await sharedServer()
    await it_.own('/api/demo/back', { method: 'POST' })
    const code = (await (
      await it_.own('/api/pairings', { method: 'POST', headers: json, body: '{}' })
    ).json()) as Pass
    cookies['owner'] = (await it_.ask('POST', '/api/pair', { code: code.secret, device: 'phone' })).cookie!
    const { secret } = (
      await it_.ask('POST', '/api/invitations', { role: 'scribe' }, { cookie: cookies['owner'] })
    ).body as Pass
    const came = await it_.ask('POST', '/api/join', {
      secret,
      name: 'Orla',
      passphrase: PASSPHRASE,
      device: 'x',
    })
    cookies['scribe'] = came.cookie!
  })
  after(async () => it_.stop())

  const aDisc = async () => (await read<Shelf>('/api/shelf')).discs[0]!
  const kinds: readonly (readonly [
    string,
    () => Promise<Row>,
    readonly [string, unknown],
    readonly [string, unknown],
  ])[] = [
    ['discs', aDisc, ['note', 'a nick in the rim'], ['weighedG', 171.5]],
    [
      'throwers',
      async () => (await read<Row[]>('/api/throwers'))[0]!,
      ['backhandMps', 24.5],
      ['budget', { throwsADay: 60, fullPowerADay: 30, throwsAWeek: 200, fullPowerAWeek: 90 }],
    ],
    [
      'sessions',
      async () => (await read<Row[]>('/api/sessions'))[0]!,
      ['temperatureC', 11],
      ['altitudeM', 120],
    ],
    [
      'places',
      async () => (await read<Row[]>('/api/places'))[0]!,
      ['surface', 'short grass'],
      ['hazards', 'a ditch'],
    ],
    [
      'reviews',
      async () => {
        const [trial] = await read<TrialSummary[]>('/api/trials')
        return await stored('reviews', {
          id: newId(),
          title: 'A first look',
          trialIds: [trial!.trial.id],
          listed: false,
          removedAt: null,
          version: 0,
        })
      },
      ['title', 'A second look'],
      ['listed', true],
    ],
  ]
  for (const [kind, row, [one, a], [other, b]] of kinds)
    describe(kind, () => {
      it('different fields changed on two devices are both kept, whoever comes first', async () => {
        const base = await row()
        const first = await stored<Row>(kind, { ...base, [one]: a }, 'owner')
        const second = await stored<Row>(kind, { ...base, [other]: b }, 'tablet')
        expect(second).to.deep.include({ [one]: a, [other]: b })
        expect(second['version']).to.equal((first['version'] as number) + 1)
        // and sent again, because the answer was lost, it is the same write
        expect(await stored(kind, { ...base, [other]: b }, 'tablet')).to.deep.equal(second)
      })

      it('the same field changed to something else is asked about, and nothing of it is stored', async () => {
        const base = await row()
        const values = kind === 'reviews' ? ['One', 'Another'] : kind === 'throwers' ? [21, 22] : undefined
        const [mine, theirs] = values ?? (typeof a === 'number' ? [3, 4] : ['one', 'another'])
        await stored(kind, { ...base, [one]: mine }, 'owner')
        const answer = await put(kind, { ...base, [one]: theirs }, 'tablet')
        expect(answer.status).to.equal(409)
        const said = answer.body as Problem & { stored: Row }
        expect(said.detail).to.match(
          /changed on another device meanwhile: .*Both versions are kept; choose one/,
        )
        expect(said.stored[one]).to.equal(mine)
        expect(said.errors?.map((e) => e.path)).to.deep.equal([one])
        const now = (await read<Row[]>(kind === 'discs' ? '/api/shelf' : `/api/${kind}`)) as unknown
        const rows = (kind === 'discs' ? (now as Shelf).discs : now) as unknown as Row[]
        if (kind !== 'reviews') expect(rows.find((r) => r.id === base.id)![one]).to.equal(mine)
        // chosen, it takes its place
        const chosen = await stored<Row>(
          kind,
          { ...base, [one]: theirs, version: said.stored['version'] },
          'tablet',
        )
        expect(chosen[one]).to.equal(theirs)
      })
    })

  it('where one field crosses, what the two changed besides it is put together for whoever chooses', async () => {
    const base = await aDisc()
    await stored('discs', { ...base, note: 'read here', weighedG: 172.5 }, 'owner')
    const entry = { id: base.id, disc: { ...base, note: 'read there', provenance: 'found in the reeds' } }
    const answer = await put('entries', entry, 'tablet')
    expect(answer.status).to.equal(409)
    const said = answer.body as Problem & { stored: Row }
    expect(said.errors?.map((e) => e.path)).to.deep.equal(['note'])
    const both = { note: 'read here', weighedG: 172.5, provenance: 'found in the reeds' }
    expect(said.stored).to.include(both)
    const chosen = await stored<typeof entry>('entries', { ...entry, disc: said.stored as never }, 'tablet')
    expect(chosen.disc).to.include(both)
    expect(await aDisc()).to.include(both)
  })

  it('what one device writes one after the other follows on, whatever version it began from', async () => {
    const base = await aDisc()
    await stored('discs', { ...base, note: 'first' }, 'owner')
    await stored('discs', { ...base, weighedG: 173 }, 'tablet')
    const own = await stored<Disc & Row>('discs', { ...base, note: 'second' }, 'owner')
    expect(own).to.include({ note: 'second', weighedG: 173 })
    // several at once count as writes of each
    await stored('shelf-edits', { id: newId(), discs: [{ ...own, markedG: 174 }] }, 'owner')
    expect(await stored<Disc & Row>('discs', { ...own, markedG: 176 }, 'owner')).to.include({ markedG: 176 })
  })

  it('a page of an earlier day, which names no version, writes as it always did', async () => {
    const { version: _, ...base } = await aDisc()
    expect(await stored<Disc & Row>('discs', { ...base, note: 'from then' }, 'owner')).to.include({
      note: 'from then',
    })
  })

  describe('a scribe', () => {
    it('changes what they logged; of others’ a change waits for an owner, who takes it over or lets it go', async () => {
      const [trial] = await read<TrialSummary[]>('/api/trials')
      const file = await read<TrialFile>(`/api/trials/${trial!.trial.id}`)
      const session = (await read<(Session & Row)[]>('/api/sessions'))[0]!
      const thrower = (await read<Row[]>('/api/throwers')).at(-1)!
      const disc = await aDisc()
      const now = new Date()
      const wind = {
        ...{ id: newId(), sessionId: session.id, startedAt: now.toISOString() },
        ...{ endedAt: new Date(now.getTime() + 60_000).toISOString(), alongMps: [1], acrossMps: [0] },
      }
      const inspection = {
        ...{
          id: newId(),
          discId: disc.id,
          day: '2026-05-09',
          diameterMm: 211,
          heightMm: null,
          rimDepthMm: null,
        },
        ...{ rimWidthMm: null, partingLineMm: null, domeMm: null, noseDeg: null, warpMm: null, bead: null },
        ...{ edge: null, stiffness: null, grip: null, temperatureC: null, note: '' },
      }
      await stored('wind-logs', wind)
      await stored('inspections', inspection)
      const cases: readonly (readonly [string, Row, string, unknown])[] = [
        ['sessions', session, 'temperatureC', 31],
        ['throwers', thrower, 'forehandMps', 19],
        ['wind-logs', wind, 'alongMps', [7]],
        ['inspections', inspection, 'diameterMm', 212],
        ['throws', file.throws[0]! as unknown as Row, 'carryM', 12],
      ]
      for (const [kind, row, field, value] of cases) {
        const refused = await put(kind, { ...row, [field]: value }, 'scribe')
        expect(refused.status, `${kind}: ${refused.text}`).to.equal(409)
        expect((refused.body as Problem).detail, kind).to.match(
          /Somebody else logged this .* an owner, who sees it .* may take it over/,
        )
      }
      const offers = await read<Offer[]>('/api/offers')
      expect(offers.map((o) => [o.kind, o.person, o.fields.map((f) => f.field)])).to.have.deep.members(
        cases.map(([kind, , field]) => [kind, 'Orla', [field]]),
      )
      expect((await asked('GET', '/api/offers', undefined, 'scribe')).status).to.equal(403)
      const of = (kind: string) => offers.find((o) => o.kind === kind)!
      // meanwhile the owner changed something else of it: that stays
      await stored('sessions', { ...session, altitudeM: 333 })
      const left = await asked('POST', `/api/offers/${of('sessions').id}/take`, {}, 'owner')
      expect(left.status, left.text).to.equal(200)
      expect((left.body as Offer[]).map((o) => o.kind)).to.not.include('sessions')
      const taken = (await read<Session[]>('/api/sessions')).find((s) => s.id === session.id)!
      expect(taken).to.include({ temperatureC: 31, altitudeM: 333 })
      expect((await asked('DELETE', `/api/offers/${of('throwers').id}`, undefined, 'owner')).status).to.equal(
        200,
      )
      expect(
        (await read<Row[]>('/api/throwers')).find((t) => t.id === thrower.id)!['forehandMps'],
      ).to.not.equal(19)
      await it_.db.execute(sql`delete from offers`)
      // their own they change, again and again
      const own = await stored<Row>(
        'sessions',
        { ...session, id: newId(), place: 'Weir meadow', version: 0 },
        'scribe',
      )
      await stored('sessions', { ...own, temperatureC: 14 }, 'scribe')
    })
  })

  describe('a write of something new that comes again', () => {
    it('is the same write; with other content it is refused with what is stored', async () => {
      const [trial] = await read<TrialSummary[]>('/api/trials')
      const file = await read<TrialFile>(`/api/trials/${trial!.trial.id}`)
      const thrown = { ...file.throws[0]!, id: newId(), label: null, version: 0 }
      const made = await stored<Row>('throws', thrown as unknown as Row)
      await stored('throws', { ...made, carryM: 71.5 }, 'tablet')
      expect((await stored<Row>('throws', thrown as unknown as Row))['version']).to.equal(1)
      const other = await put('throws', { ...thrown, carryM: 44 } as unknown as Row)
      expect(other.status, other.text).to.equal(409)
      expect((other.body as { stored: Row }).stored['carryM']).to.equal(71.5)

      const fresh = { ...trial!.trial, id: newId(), name: 'Once', finishedAt: null, version: 0 }
      const first = await stored<Row>('trials', fresh as unknown as Row)
      await stored('trials', { ...first, name: 'Twice' }, 'tablet')
      expect((await stored<Row>('trials', fresh as unknown as Row))['version']).to.equal(1)
      const wrong = await put('trials', { ...fresh, name: 'Thrice' } as unknown as Row)
      expect(wrong.status).to.equal(409)
      expect((wrong.body as { stored: Row }).stored['name']).to.equal('Twice')
    })
  })

  it('a new row whose answer was lost, and that others have changed since, comes again as what it was', async () => {
    const { version: _, ...session } = (await read<(Session & Row)[]>('/api/sessions'))[0]!
    const fresh = { ...session, id: newId(), place: 'Weir meadow' }
    const made = await stored<Row>('sessions', fresh, 'owner')
    await stored<Row>('sessions', { ...made, temperatureC: 17 }, 'tablet')
    expect((await stored<Row>('sessions', fresh, 'owner'))['version']).to.equal(1)
    const now = (await read<Session[]>('/api/sessions')).find((s) => s.id === fresh.id)!
    expect(now.temperatureC).to.equal(17)
  })

  describe('a section of a review', () => {
    const text = (words: string) => ({
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'text', text: words }] }],
    })
    const made = async () => {
      const [trial] = await read<TrialSummary[]>('/api/trials')
      const review = await stored<Row>('reviews', {
        ...{
          id: newId(),
          title: 'A look',
          trialIds: [trial!.trial.id],
          listed: false,
          removedAt: null,
          version: 0,
        },
      })
      return await stored<ReviewSection & Row>('review-sections', {
        ...{
          id: newId(),
          reviewId: review.id,
          kind: 'own',
          place: 1,
          title: 'Feel',
          body: text('as it was'),
        },
        ...{ verdicts: null, hidden: false, removedAt: null, version: 0 },
      })
    }
    const sections = async (s: ReviewSection) =>
      (await read<ReviewFile>(`/api/reviews/${s.reviewId}`)).sections.map((x) => [
        x.hidden,
        JSON.stringify(x.body).match(/"text":"([^"]+)"/)?.[1],
      ])

    it('that one hides while another rewrites it stays hidden, and the rewritten one is kept beside, in either order', async () => {
      const wanted = [
        [true, 'as it was'],
        [false, 'rewritten'],
      ]
      for (const first of ['hide', 'rewrite']) {
        const s = await made()
        const acts = {
          hide: () => stored('review-sections', { ...s, hidden: true }, 'owner'),
          rewrite: () => stored('review-sections', { ...s, body: text('rewritten') }, 'tablet'),
        }
        for (const act of first === 'hide' ? (['hide', 'rewrite'] as const) : (['rewrite', 'hide'] as const))
          await acts[act]()
        expect(await sections(s), first).to.have.deep.members(wanted)
      }
    })
    it('that one moves while another writes is both', async () => {
      const s = await made()
      await stored('review-sections', { ...s, place: 7 }, 'owner')
      const both = await stored<ReviewSection & Row>(
        'review-sections',
        { ...s, body: text('more') },
        'tablet',
      )
      expect(both.place).to.equal(7)
      expect(await sections(s)).to.deep.equal([[false, 'more']])
    })
  })
})
