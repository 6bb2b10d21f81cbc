import { expect } from 'chai'
import { v7 as newId } from 'uuid'
import type { Disc } from '../../contract/shelf.ts'
import type { DiscRecord } from '../../contract/shelfPage.ts'
import type { ShortThrow, Throw, TrialFile, TrialSummary } from '../../contract/trials.ts'
import { WIRE, WRITE_KINDS, WRITES } from '../../contract/writes.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { NOTHING_OF_SHORT } from '../../core/throw/short.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import { harrowmere } from '../../demo/harrowmere.ts'
import { demoId } from '../../demo/shed.ts'
import { broughtForward } from '../../contract/older.ts'
import {
  armDaysOver,
  recordOver,
  rowOver,
  rowsOver,
  shelfOver,
  summariesOver,
  trialOver,
} from '../../web/data/overlay.ts'
import type { Waiting } from '../../web/data/queueStore.ts'
import { pageHere, recordHere, rowHere } from '../../web/data/shelfLocal.ts'

const demo = harrowmere()
const trial = demo.trials.find((t) => t.id === demoId('trial', 'four'))!
const throws = demo.throws.filter((t) => t.trialId === trial.id)
const file: TrialFile = { trial, sessions: demo.sessions, throws }
let keys = 0
const waiting = <K extends WriteKind>(kind: K, body: Written<K>): Waiting => ({
  key: ++keys,
  kind,
  wire: WIRE,
  body,
})

describe('what waits on a device, laid over what was read', () => {
  const short: ShortThrow = {
    ...NOTHING_OF_SHORT,
    id: newId(),
    trialId: trial.id,
    sessionId: throws[0]!.sessionId,
    discId: trial.discIds[0]!,
    throwerId: demo.throwers[0]!.id,
    thrownAt: '2026-10-04T12:00:00.000Z',
    game: 'ground',
    groundM: 4,
    takenBackAt: null,
  }

  it('lays a throw of the short game over the short game, and nowhere else', () => {
    const list = [waiting('short-throws', short)]
    expect(trialOver(trial.id, file, list)!.throws).deep.equal(throws)
    expect(rowsOver('short-throws', [], list, (t) => t.trialId === trial.id)).deep.equal([short])
  })

  it('lays an edit over the throw it is of, and a new one beside it, in the order they were kept', () => {
    const edited: Throw = { ...throws[0]!, carryM: 55 }
    const added: Throw = { ...throws[0]!, id: newId(), version: 0 }
    const list = [
      waiting('throws', edited),
      waiting('throws', added),
      waiting('throws', { ...edited, carryM: 56 }),
    ]
    const over = trialOver(trial.id, file, list)!
    expect(over.throws.length).equal(throws.length + 1)
    expect(over.throws.find((t) => t.id === edited.id)!.carryM).equal(56)
    expect(trialOver(newId(), undefined, list)).equal(undefined)
  })

  it('counts throws that wait against their arms, each once, on the day of their outing', () => {
    const own: Throw = {
      ...throws[0]!,
      id: newId(),
      version: 0,
      power: 1,
      thrownAt: '2026-10-05T10:00:00.000Z',
    }
    const eased: Throw = { ...own, id: newId(), power: 0.7, sessionId: newId() }
    const days = [{ throwerId: own.throwerId, day: '2026-10-05', throws: 16, fullPower: 10 }]
    const list = [
      waiting('throws', own),
      waiting('throws', { ...own, carryM: 70 }),
      waiting('sessions', { ...demo.sessions[0]!, id: eased.sessionId, day: '2026-10-06' }),
      waiting('throws', eased),
      // one that was stored before is among those days already, one taken back is not thrown
      waiting('throws', { ...throws[0]!, carryM: 50 }),
      waiting('throws', { ...own, id: newId(), takenBackAt: '2026-10-05T10:01:00.000Z' }),
    ]
    expect(armDaysOver(days, list, '2026-10-01')).deep.equal([
      { throwerId: own.throwerId, day: '2026-10-05', throws: 17, fullPower: 11 },
      { throwerId: own.throwerId, day: '2026-10-06', throws: 1, fullPower: 0 },
    ])
    expect(armDaysOver([], list, '2026-10-07')).deep.equal([])
  })

  it('knows a trial that no server has heard of', () => {
    const fresh = { ...trial, id: newId(), name: 'Tried on the meadow' }
    const list = [waiting('trials', fresh)]
    expect(trialOver(fresh.id, undefined, list)).deep.equal({ trial: fresh, sessions: [], throws: [] })
    const summaries: TrialSummary[] = [{ trial, counted: 68, leftOut: 4, lastThrownAt: null }]
    const own: Throw = { ...throws[0]!, id: newId(), trialId: fresh.id, version: 0 }
    const [first, second] = summariesOver(summaries, [
      ...list,
      waiting('throws', own),
      waiting('throws', { ...throws[0]!, carryM: 50 }),
    ])
    expect(first).deep.equal({
      trial: fresh,
      counted: own.counts ? 1 : 0,
      leftOut: own.counts ? 0 : 1,
      lastThrownAt: own.thrownAt,
    })
    // an edit of a throw that is stored is counted already
    expect(second).deep.equal(summaries[0])
  })

  it('lays every kind of change over the shelf', () => {
    const [disc] = demo.discs as [Disc]
    const plastic = demo.plastics.find((p) => p.id === disc.plasticId)!
    const [maker, mold] = [
      { id: newId(), name: 'Aldermere Works' },
      { ...demo.molds[0]!, id: newId(), name: 'Thistlewick' },
    ]
    const entry = {
      id: newId(),
      disc: { ...disc, id: '', code: 'HS-901', plasticId: '' },
      maker,
      mold: { ...mold, makerId: maker.id },
      plastic: { ...plastic, id: newId(), moldId: mold.id, name: 'Loam' },
    }
    entry.disc = { ...entry.disc, id: entry.id, plasticId: entry.plastic.id }
    const over = shelfOver(demo, [
      waiting('entries', entry),
      waiting('plastics', { ...plastic, claims: ['holds its line'] }),
      waiting('shelf-edits', { id: newId(), discs: [{ ...disc, weighedG: 171 }] }),
      waiting('throws', throws[0]!),
    ])
    const shelved = shelvedDiscs(over)
    expect(shelved.find((d) => d.disc.code === 'HS-901')).deep.include({ maker, mold: entry.mold })
    expect(shelved.find((d) => d.disc.id === disc.id)!.disc.weighedG).equal(171)
    expect(shelved.find((d) => d.disc.id === disc.id)!.plastic.claims).deep.equal(['holds its line'])
    expect(demo.discs.find((d) => d.id === disc.id)!.weighedG).equal(disc.weighedG)
  })

  it('lays inspections, wear and a photo over a disc’s record', () => {
    const [here] = shelvedDiscs(demo)
    const record: DiscRecord = recordHere(rowHere(here!, undefined))
    const note = {
      id: newId(),
      discId: here!.disc.id,
      day: '2026-11-20',
      throws: 40,
      hardHits: 1,
      note: '',
      removedAt: null,
    }
    const photo = { kind: 'image/png' as const, base64: 'AAAA' }
    const over = recordOver(record, [
      waiting('wear-notes', note),
      waiting('wear-notes', { ...note, id: newId(), discId: newId() }),
      waiting('photos', { id: here!.disc.id, photo }),
    ])
    expect(over.wearNotes).deep.equal([note])
    expect([over.photo, over.photoWaiting!.photo]).deep.equal([true, photo])
    const gone = recordOver({ ...record, photo: true, wearNotes: [note] }, [
      waiting('photos', { id: here!.disc.id, photo: null }),
      waiting('wear-notes', { ...note, removedAt: '2026-11-21T10:00:00.000Z' }),
    ])
    expect([gone.photo, gone.wearNotes]).deep.equal([false, []])
  })

  it('keeps preferences apart by whose they are', () => {
    const mine = { id: newId(), units: 'metric' as const, theme: 'day' as const }
    const list = [
      waiting('preferences', { ...mine, theme: 'dusk' }),
      waiting('preferences', { ...mine, id: newId(), theme: 'sun' }),
    ]
    expect(rowOver('preferences', mine.id, mine, list)!.theme).equal('dusk')
  })
})

describe('the shelf as a device makes it without its server', () => {
  const discs = shelvedDiscs(demo)
  const query = { find: '', sort: 'kin' as const, page: 0 }
  const now = Date.parse('2026-11-26T12:00:00Z')
  const known = new Map(
    discs.map((d, i) => [
      d.disc.id,
      {
        rating: null,
        throws: i % 3,
        lastThrownAt: i % 3 === 0 ? null : `2026-${i % 2 ? '03' : '11'}-10T10:00:00Z`,
      },
    ]),
  )
  const page = (change: object) => pageHere(discs, known, { ...query, ...change }, now)

  it('finds by every word, and filters as it is asked', () => {
    expect(
      page({ find: 'tarnwick slate' }).rows.every(
        (r) => r.mold.name === 'Tarnwick' && r.plastic.name === 'Slate',
      ),
    ).equal(true)
    expect(page({ find: 'tarnwick slate' }).total).greaterThan(0)
    expect(page({ find: 'nothing of that name' }).total).equal(0)
    for (const wear of ['new', 'worn'] as const)
      expect(page({ wear }).rows.every((r) => r.disc.wear === wear)).equal(true)
    expect(page({ tested: 'yes' }).total + page({ tested: 'no' }).total).equal(page({}).total)
    expect(page({ age: 90 }).rows.every((r) => r.lastThrownAt!.startsWith('2026-03'))).equal(true)
    expect(page({ word: 'overstable' }).total).lessThan(page({}).total)
  })

  it('sorts up and down, what has nothing to be sorted by last', () => {
    const last = (change: object) => page(change).rows.map((r) => r.lastThrownAt)
    for (const list of [last({ sort: 'last' }), last({ sort: 'last', down: '1' })])
      expect(list.slice(list.indexOf(null)).every((v) => v === null)).equal(true)
    const up = last({ sort: 'last' }).filter((v) => v !== null)
    expect(up).deep.equal([...up].sort())
    expect(last({ sort: 'last', down: '1' }).filter((v) => v !== null)).deep.equal([...up].reverse())
    const codes = page({ sort: 'code' }).rows.map((r) => r.disc.code)
    expect(codes).deep.equal([...codes].sort())
  })
})

describe('a write that waited through an update of the app', () => {
  it('is brought forward from an address to its kind, and into the shapes of today', () => {
    const body = { id: newId(), skipM: 3.5, game: 'ground' }
    expect(broughtForward({ path: `/api/short-throws/${body.id}`, body })).deep.equal({
      kind: 'short-throws',
      wire: WIRE,
      body: { id: body.id, game: 'ground', groundM: 3.5 },
    })
    const row = throws[0]!
    const { leg: _, spinRpm: __, ...old } = row
    const now = broughtForward({ path: `/api/throws/${row.id}`, body: old })!
    expect(WRITES.throws.row.parse(now.body)).deep.equal({ ...row, leg: null })
    expect(broughtForward({ path: '/api/holograms/1', body: { id: '1' } })).equal(undefined)
  })

  it('is left as it is where it is of today', () => {
    const row = throws[0]!
    for (const kind of WRITE_KINDS)
      expect(broughtForward({ kind, wire: WIRE, body: row })).deep.equal({ kind, wire: WIRE, body: row })
  })
})
