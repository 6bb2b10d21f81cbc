import { expect } from 'chai'
import { evidenceOf } from '../../../core/rating/fromSheet.ts'
import type { Evidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { PACE, paceOf, wornOf } from '../../../core/rating/worn.ts'
import { usualDrop } from '../../../core/shelf/usualWear.ts'
import { readThrowsCsv } from '../../../core/formats/throwsCsv.ts'
import { seedOf, simulateSession } from '../../simulate/session.ts'
import type { SessionDesign } from '../../simulate/session.ts'

/** Five outings of four discs that lose stability meanwhile. */
const SEASON = { throws: 60, discs: 4, called: true, outings: 5, gusts: 0.6 } as const
const season = (k: number, design: Partial<SessionDesign>) =>
  simulateSession({ ...SEASON, ...design, seed: seedOf(k) })
/** As if nobody had noted what discs went through. */
const unnoted = (e: Evidence): Evidence => ({ ...e, throws: e.throws.map(({ worn: _, ...t }) => t) })

describe('discs that wore between their throws', () => {
  /** How many intervals of 90 hold where each disc flies now, in per cent, with the wear that was noted and without. */
  function held(design: Partial<SessionDesign>, sessions: number) {
    const counts = { noted: 0, without: 0, all: 0 }
    for (let k = 0; k < sessions; k++) {
      const { evidence, sides } = season(k, design)
      const off = (e: Evidence) =>
        outcomeOf(fit(e)).discs.filter(
          (d) => Math.abs(d.side.value - sides.get(d.disc)!.side) < 1.645 * d.side.sd,
        ).length
      counts.noted += off(evidence)
      counts.without += off(unnoted(evidence))
      counts.all += evidence.discs.length
    }
    return { noted: (100 * counts.noted) / counts.all, without: (100 * counts.without) / counts.all }
  }

  it('are rated as they are now, which they are not where nobody notes their wear', () => {
    const { noted, without } = held({ lostM: [2] }, 10)
    expect(noted).at.least(85)
    expect(without).at.most(60)
  })

  it('are told apart where half of them wear twice as fast as is usual', () => {
    const { noted, without } = held({ lostM: [0, 3], notedM: [0, 1.5] }, 10)
    expect(noted).at.least(83)
    expect(without).at.most(noted - 10)
  })

  it('lose in the telling what they lost, and the pace of a blend is one', () => {
    const kin = ['Ash', 'Birch', 'Cedar', 'Doum'].map((mold) => ({ mold, plastic: 'soft' }))
    let [nearer, all] = [0, 0]
    for (let k = 0; k < 6; k++) {
      const { evidence } = season(k, { kin, lostM: [3], notedM: [1.5], wearless: true })
      const state = fit(evidence)
      expect(state.worn.blends).deep.equal([{ name: 'soft', paces: [0, 1, 2, 3] }])
      for (const { lost, usually } of outcomeOf(state).worn) {
        expect(lost.sd).above(0)
        // truly twice as fast
        if (Math.abs(lost.value - 2 * usually) < Math.abs(lost.value - usually)) nearer++
        all++
      }
    }
    expect(nearer / all).above(0.5)
  })

  it('that wore no more than can be seen have no pace of their own, and say what they said', () => {
    const { evidence } = season(3, {})
    const hardly: Evidence = { ...evidence, throws: evidence.throws.map((t) => ({ ...t, worn: 0.01 })) }
    expect(wornOf(hardly).discs).deep.equal([])
    expect(paceOf(fit(evidence), 0)).equal(PACE.mean)
    const [one, other] = [outcomeOf(fit(evidence)), outcomeOf(fit(hardly))]
    one.discs.forEach((d, i) => expect(other.discs[i]!.side.value).closeTo(d.side.value, 0.2 * d.side.sd))
    expect(one.worn).deep.equal([])
  })

  it('say the same in whichever order their throws come, begun warm or cold', () => {
    const { evidence } = season(5, { lostM: [1, 3] })
    const cold = fit(evidence)
    const [a, b, c] = [
      outcomeOf(cold),
      outcomeOf(fit({ ...evidence, throws: evidence.throws.toReversed() })),
      outcomeOf(fit(evidence, { warm: cold })),
    ]
    for (const other of [b, c])
      other.discs.forEach((d, i) => {
        expect(d.side.value).closeTo(a.discs[i]!.side.value, 0.02 * d.side.sd)
        expect(other.worn[i]!.lost.value).closeTo(a.worn[i]!.lost.value, 0.02 * a.worn[i]!.lost.sd + 1e-3)
      })
  })

  it('are read from a sheet that counts what they had been through', () => {
    const header = 'thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,carry_m,right_m'
    const row = 'Ida,right,backhand,A,9,5,-1,2,0,90,-5'
    const read = readThrowsCsv(
      [
        `${header},disc_throws,disc_hits,plastic_kind`,
        `${row},10,0,base`,
        `${row},300,5,base`,
        `${row},,,base`,
      ].join('\n'),
    )
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    const { throws } = evidenceOf(read.throws)
    const lost =
      usualDrop('base', { throws: 300, hardHits: 5 }) - usualDrop('base', { throws: 10, hardHits: 0 })
    expect(throws[0]!.worn).closeTo(lost, 1e-12)
    // as it was last thrown, and where nobody counted
    expect(throws.slice(1).map((t) => t.worn)).deep.equal([undefined, undefined])
  })
})
