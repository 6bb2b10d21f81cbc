import { expect } from 'chai'
import { harrowmere } from '../../demo/harrowmere.ts'
import { landingOf } from '../../web/stations/field/draft.ts'
import { keepDraft, keptDraft } from '../../web/stations/field/keptDraft.ts'
import { logging, startLogging } from '../../web/stations/field/logging.ts'

const demo = harrowmere()
const session = demo.sessions[0]!
const thrower = demo.throwers[0]!
const TRIAL = demo.trials[0]!.id
const ID = '01900000-0000-7000-8000-000000000001'
const fresh = (id = ID) =>
  startLogging(id, session, {
    ...{ throwerId: thrower.id, sessionId: session.id, stroke: 'backhand', leg: 'out', power: 1 },
    ...{ windAlongMps: -3, windAcrossMps: null, windSdMps: null },
  })
const landed = logging(fresh(), {
  ...{ type: 'seen', change: { carryM: 81, rightM: -4, hangS: 3 }, meantDeg: 8, at: 12_000 },
  discId: demo.trials[0]!.discIds[1]!,
})

/** What browsers keep, in memory. */
function store() {
  const kept = new Map<string, string>()
  return {
    kept,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  }
}

describe('a landing that was put down and not kept', () => {
  const OTHER = '01900000-0000-7000-8000-000000000002'

  it('is there again as it was, for its own trial, until its throw is stored or it is cleared', () => {
    const its = store()
    keepDraft(its, TRIAL, landed)
    const again = keptDraft(its, TRIAL, fresh(OTHER), [])!
    expect(again).deep.equal(landed)
    expect(keptDraft(its, OTHER, fresh(OTHER), [])).equal(undefined)
    expect(keptDraft(its, TRIAL, fresh(OTHER), [{ id: ID }])).equal(undefined)
    const cleared = logging(landed, { type: 'cleared', nextId: OTHER })
    expect(landingOf(cleared.seen)).equal(null)
    expect(cleared).include({ id: OTHER, landedAt: undefined })
    expect(cleared.asked).deep.equal(landed.asked)
    keepDraft(its, TRIAL, cleared)
    expect(its.kept.size).equal(0)
  })

  it('is left where it is no draft, of another day’s shape in what it lacks filled, and of a full device lost alone', () => {
    const its = store()
    for (const odd of ['', '{', '{"id":1}', '[]', JSON.stringify({ ...landed, session: null })]) {
      its.kept.set(`veer-line.landed.${TRIAL}`, odd)
      expect(keptDraft(its, TRIAL, fresh(), []), odd).equal(undefined)
    }
    const { hangS: _, ...earlier } = landed.seen
    its.kept.set(`veer-line.landed.${TRIAL}`, JSON.stringify({ ...landed, seen: earlier }))
    expect(keptDraft(its, TRIAL, fresh(), [])!.seen).deep.equal({ ...landed.seen, hangS: null })
    const full = {
      ...its,
      setItem: () => {
        throw new DOMException('full', 'QuotaExceededError')
      },
    }
    expect(() => keepDraft(full, TRIAL, landed)).not.to.throw()
  })
})
