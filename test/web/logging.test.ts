import { expect } from 'chai'
import { VolunteerReport } from '../../contract/devices.ts'
import type { Session, Throw } from '../../contract/trials.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import { throwEvidence } from '../../core/rating/fromSheet.ts'
import { OBSERVED_KEYS } from '../../core/throw/observed.ts'
import { harrowmere } from '../../demo/harrowmere.ts'
import {
  draftLine,
  landingOf,
  NOTHING_SEEN,
  seenOf,
  fieldStandingOf,
  toThrow,
} from '../../web/stations/field/draft.ts'
import type { FieldStanding } from '../../web/stations/field/draft.ts'
import { airCalls, legOf, logging, releasedAt, startLogging } from '../../web/stations/field/logging.ts'
import type { FieldEvent, Logging } from '../../web/stations/field/logging.ts'

const demo = harrowmere()
const session: Session = demo.sessions[0]!
const thrower = demo.throwers[0]!
const standing: FieldStanding = {
  throwerId: thrower.id,
  sessionId: session.id,
  stroke: 'backhand',
  leg: 'out',
  power: 1,
  windAlongMps: -3,
  windAcrossMps: 0.5,
  windSdMps: null,
}
const start = startLogging('one', session, standing)
const after = (state: Logging, ...events: FieldEvent[]) => events.reduce(logging, state)
const seen = (change: object, at = 10_000): FieldEvent => ({ type: 'seen', change, meantDeg: 8, at })
const MEANT = { discId: demo.trials[0]!.discIds[0]!, hyzerDeg: 8 }
const ID = '01900000-0000-7000-8000-000000000001'
const NOW = '2026-10-04T10:00:00.000Z'

describe('a throw being logged', () => {
  it('keeps the power it was chosen with when the plan comes up late, until it is kept or changed by hand', () => {
    const late: FieldEvent = { type: 'followed', step: 'the first', change: { power: 1, stroke: 'forehand' } }
    const chosen = after(start, { type: 'chosen', meant: MEANT, power: 0.85 }, late)
    expect(chosen.asked).deep.equal(MEANT)
    expect(chosen.standing).include({ power: 0.85, stroke: 'forehand' })
    const changed = after(chosen, { type: 'stood', change: { power: 0.7 } }, { ...late, step: 'again' })
    expect(changed.standing.power).equal(0.7)
    for (const done of [{ type: 'kept', nextId: 'two' }, { type: 'putOff' }, { type: 'restarted' }] as const)
      expect(after(chosen, done, { ...late, step: 'the next' }).standing.power, done.type).equal(1)
  })

  it('holds what was asked of it from the moment it has landed', () => {
    const flying = after(start, seen({ hangS: 3.1 }))
    expect(flying.asked).deep.equal({})
    const landed = after(flying, seen({ carryM: 80, rightM: -4 }, 12_000), seen({ carryM: 81 }, 13_000))
    expect(landed.asked).deep.equal({ hyzerDeg: 8 })
    expect(landed.landedAt).equal(12_000)
    expect(landingOf(landed.seen)).deep.equal({ carryM: 81, rightM: -4 })
    const wanted = after(start, { type: 'asked', change: { hyzerDeg: -5 } }, seen({ carryM: 80, rightM: 0 }))
    expect(wanted.asked.hyzerDeg).equal(-5)
  })

  it('turns round with its wind, there and back', () => {
    const back = after(start, { type: 'turned' })
    expect([legOf(back), back.standing.windAlongMps, back.standing.windAcrossMps]).deep.equal([
      'back',
      3,
      -0.5,
    ])
    expect(after(back, { type: 'turned' })).deep.equal(start)
    const calm = after(
      start,
      { type: 'stood', change: { windAlongMps: null, windAcrossMps: 0 } },
      { type: 'turned' },
    )
    expect([calm.standing.windAlongMps, calm.standing.windAcrossMps]).deep.equal([null, 0])
  })

  it('is timed from one press to the next, within what a flight lasts', () => {
    const running = after(start, { type: 'clocked', at: 1000 })
    expect([running.timing, running.seen.hangS]).deep.equal([true, null])
    const timed = after(running, { type: 'clocked', at: 4260 })
    expect([timed.timing, timed.seen.hangS, releasedAt(timed, 9999)]).deep.equal([false, 3.3, 1000])
    expect(after(running, { type: 'clocked', at: 1010 }).seen.hangS).equal(0.2)
    expect(after(running, { type: 'clocked', at: 901_000 }).seen.hangS).equal(20)
    expect(releasedAt(after(start, seen({ carryM: 70, rightM: 0 }, 20_000)), 30_000)).equal(14_000)
  })

  it('is called from what was meant, by degrees, and no steeper than anybody throws', () => {
    const angled = (by: number): FieldEvent => ({ type: 'angled', by, meantDeg: 8 })
    expect(after(start, angled(-1)).seen.hyzerCalledDeg).equal(7)
    expect(after(start, angled(2), angled(1)).seen.hyzerCalledDeg).equal(11)
    expect(after(start, angled(200)).seen.hyzerCalledDeg).equal(45)
  })

  it('takes calls in the air and back, and counts or not with a reason', () => {
    const called = after(start, { type: 'called', word: 'turned' }, { type: 'called', word: 'fought back' })
    expect(airCalls(called.seen)).deep.equal(['turned', 'fought back'])
    const less = after(called, { type: 'called', word: 'turned' }, { type: 'called', word: 'fought back' })
    expect(less.seen.notes).deep.equal({})
    const out = after(start, { type: 'counted' })
    expect([out.seen.counts, out.seen.whyNot]).deep.equal([false, 'hit a branch'])
    expect(after(out, { type: 'counted' }).seen).deep.equal(start.seen)
  })

  it('puts throws off, chooses others, and starts over', () => {
    const off = after(start, { type: 'chosen', meant: MEANT }, { type: 'putOff' }, { type: 'putOff' })
    expect([off.putOff, off.asked]).deep.equal([2, {}])
    expect(after(off, { type: 'restarted' })).deep.equal(start)
    // an aim goes with the throw it was meant for, unless that has landed
    const aimed = after(start, { type: 'chosen', meant: MEANT, aimDeg: 4.3 })
    expect(aimed.seen.aimDeg).equal(4.3)
    expect(after(aimed, { type: 'putOff' }).seen.aimDeg).equal(null)
    expect(after(aimed, { type: 'chosen', meant: MEANT }).seen.aimDeg).equal(null)
    expect(after(aimed, { type: 'kept', nextId: 'two' }).seen.aimDeg).equal(null)
    const landed = { type: 'seen', change: { carryM: 80, rightM: 0 }, meantDeg: 0, at: 5 } as const
    expect(after(aimed, landed, { type: 'chosen', meant: MEANT }).seen.aimDeg).equal(4.3)
    const other = after(start, { type: 'chosen', meant: MEANT }, { type: 'asked', change: { hyzerDeg: 0 } })
    expect(other.asked).deep.equal({ ...MEANT, hyzerDeg: 0 })
  })

  it('is blank again once it is kept, but for what stands', () => {
    const done = after(
      start,
      { type: 'followed', step: 'a', change: { power: 0.85 } },
      seen({ carryM: 80, rightM: -4 }),
      { type: 'called', word: 'held' },
      { type: 'clocked', at: 5 },
      { type: 'kept', nextId: 'two' },
    )
    expect(done).deep.equal({
      ...start,
      id: 'two',
      followed: 'a',
      kept: 1,
      standing: { ...standing, power: 0.85 },
    })
    expect(done.seen).deep.equal(NOTHING_SEEN)
  })

  it('stays of the disc it was of once it has landed, whatever is proposed meanwhile', () => {
    const down: FieldEvent = {
      type: 'seen',
      change: { carryM: 80, rightM: -4 },
      meantDeg: 8,
      discId: 'a',
      at: 9,
    }
    const landed = after(start, down, { ...down, change: { hangS: 4 }, meantDeg: 0, discId: 'b' })
    expect(landed.asked).deep.equal({ hyzerDeg: 8, discId: 'a' })
    expect(after(start, { type: 'chosen', meant: { discId: 'c' } }, down).asked.discId).equal('c')
  })

  it('takes over what was seen of a volunteer’s throw, and who threw it', () => {
    const thrown = VolunteerReport.parse({
      device: 'Simulated volunteer',
      range: { distanceM: 80, bearingDeg: -3 },
      carryM: 79.9,
      rightM: -4.2,
      hangS: 3.4,
      hyzerCalledDeg: 6,
      path: { timeS: [], downM: [], rightM: [], upM: [] },
    })
    const bent = after(start, seen({ midDownM: 40, midRightM: 2 }), {
      type: 'volunteered',
      thrown,
      at: 10_000,
    })
    expect(bent.seen).include({ carryM: 79.9, rightM: -4.2, hangS: 3.4, hyzerCalledDeg: 6, midDownM: null })
    expect(bent.seen.notes).deep.equal({ thrown_by: 'Simulated volunteer' })
    expect(releasedAt(bent, 0)).equal(6600)
  })
})

describe('a draft of a throw', () => {
  const [thrown] = demo.throws
  const stored: Throw = {
    ...thrown!,
    carryM: Math.round(10 * thrown!.carryM) / 10,
    spinRpm: 1100,
    apexM: 9,
    releaseSpeedMps: 24,
  }

  it('gives back a stored throw just as it was, all that was observed of it', () => {
    const who = demo.throwers.find((t) => t.id === stored.throwerId)!
    const drawn = toThrow(
      stored.id,
      stored.trialId,
      { discId: stored.discId, hyzerDeg: stored.hyzerDeg },
      fieldStandingOf(stored),
      seenOf(stored),
      who,
      stored,
      NOW,
    )
    expect(drawn).deep.equal({ ok: true, row: stored })
  })

  it('is drawn with everything that was seen, the measured speed and the calls in the air too', () => {
    const disc = shelvedDiscs(demo).find((d) => d.disc.id === stored.discId)!
    const noted = { ...seenOf(stored), notes: { in_the_air: 'turned' } }
    const line = draftLine(disc, thrower, session, MEANT, fieldStandingOf(stored), noted)
    for (const key of OBSERVED_KEYS) {
      if (key === 'hand' || key === 'hyzerDeg' || stored[key] === null) continue
      expect(line[key], key).equal(stored[key])
    }
    expect(throwEvidence(line)).include({ releaseSpeedMps: 24, apexM: 9 })
    expect(throwEvidence(line).calls).deep.equal(['turned'])
    // without a landing it can still be forecast
    expect(draftLine(disc, thrower, session, MEANT, standing, NOTHING_SEEN)).include({ carryM: 1, rightM: 0 })
  })

  it('says what is missing or out of range by what it is called', () => {
    const draw = (change: object, stands: Partial<FieldStanding> = {}) =>
      toThrow(
        ID,
        '',
        MEANT,
        { ...standing, ...stands },
        { ...NOTHING_SEEN, ...change },
        thrower,
        undefined,
        NOW,
      )
    expect(draw({})).deep.equal({ ok: false, why: 'Tap where it landed first.' })
    const far = draw({ carryM: 80, rightM: 0 }, { windAlongMps: -90 })
    expect(far.ok ? '' : far.why).match(/^The trial must be/)
    const trialId = demo.trials[0]!.id
    const windy = toThrow(
      ID,
      trialId,
      MEANT,
      { ...standing, windAlongMps: -90 },
      { ...NOTHING_SEEN, carryM: 80, rightM: 0 },
      thrower,
      undefined,
      NOW,
    )
    expect(windy.ok ? '' : windy.why).equal(
      'The wind along the line is −90; it must lie between −25 and 25 m/s.',
    )
  })
})
