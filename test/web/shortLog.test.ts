import { expect } from 'chai'
import type { Game } from '../../core/throw/short.ts'
import { emptyLog, logAfter, shortThrowOf } from '../../web/stations/field/shortLog.ts'
import type { ShortEvent, ShortLog } from '../../web/stations/field/shortLog.ts'

const id = (n: number) => `01900000-0000-7000-8000-0000000000${n}`
const discIds = [id(11), id(12), id(13)]
const empty = emptyLog(id(30), discIds[0]!, id(20))
const after = (log: ShortLog, ...events: readonly ShortEvent[]) => events.reduce(logAfter, log)
const at = (game: Game) => ({
  trialId: id(31),
  sessionId: id(32),
  game,
  thrownAt: '2026-05-03T09:00:00.000Z',
})

describe('the short game as it is logged', () => {
  it('keeps what belongs to the game, by the disc and the thrower chosen', () => {
    const log = after(
      empty,
      { did: 'chose disc', discId: id(12) },
      { did: 'chose thrower', throwerId: id(21) },
      { did: 'saw', change: { groundM: 4.5, strokes: 3 } },
    )
    expect(shortThrowOf(log, log.seen, at('ground'))).include({
      discId: id(12),
      throwerId: id(21),
      groundM: 4.5,
      strokes: null,
    })
  })

  it('is one throw however often it is kept before the next', () => {
    const [one, again] = [
      shortThrowOf(empty, empty.seen, at('holes')),
      shortThrowOf(empty, { ...empty.seen, strokes: 3 }, at('holes')),
    ]
    expect(one).match(/strokes must be given/)
    expect(again).include({ id: empty.id })
    const next = after(empty, { did: 'kept', game: 'holes', seen: empty.seen, discIds, nextId: id(41) })
    expect(shortThrowOf(next, { ...next.seen, strokes: 2 }, at('holes'))).include({ id: id(41) })
  })

  it('says in a sentence what is missing or cannot be', () => {
    expect(shortThrowOf(empty, empty.seen, at('ground'))).match(/must be given for ground/)
    const far = after(empty, { did: 'saw', change: { distanceM: 900, made: true } })
    expect(shortThrowOf(far, far.seen, at('putting'))).match(/distance .*200/)
  })

  it('goes round the discs with the same shot: what holds stays, what was seen does not', () => {
    const seen = { ...empty.seen, distanceM: 30, pastM: 2, rightM: -1, effort: 0.7 }
    const next = after(empty, { did: 'kept', game: 'approach', seen, discIds, nextId: id(40) })
    expect(next.discId).equal(id(12))
    expect(next.seen).include({ distanceM: 30, effort: 0.7, pastM: null, rightM: null })
    const round = after(
      next,
      { did: 'kept', game: 'approach', seen, discIds, nextId: id(40) },
      { did: 'kept', game: 'approach', seen, discIds, nextId: id(40) },
    )
    expect(round.discId).equal(id(11))
  })

  it('putts on with one disc', () => {
    const seen = { ...empty.seen, distanceM: 7, made: false, miss: 'left', style: 'spin' } as const
    const next = after(empty, { did: 'kept', game: 'putting', seen, discIds, nextId: id(40) })
    expect(next.discId).equal(id(11))
    expect(next.seen).include({ distanceM: 7, style: 'spin', made: null, miss: null })
  })

  it('goes to the next hole once every disc has played it, and no further than there are', () => {
    const seen = { ...empty.seen, hole: 4, strokes: 3 }
    const kept = (log: ShortLog, hole = 4) =>
      after(log, { did: 'kept', game: 'holes', seen: { ...seen, hole }, discIds, nextId: id(40) })
    const one = kept(empty)
    expect([one.discId, one.seen.hole]).deep.equal([id(12), 4])
    const all = kept(kept(one))
    expect([all.discId, all.seen.hole, all.seen.strokes]).deep.equal([id(11), 5, null])
    const last = kept({ ...one, discId: id(13) }, 36)
    expect(last.seen.hole).equal(36)
  })
})
