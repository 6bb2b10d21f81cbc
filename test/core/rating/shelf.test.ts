import { expect } from 'chai'
import { mean } from 'd3'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../../contract/sheet.ts'
import type { Evidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { evidenceOf } from '../../../core/rating/fromSheet.ts'
import { HABIT } from '../../../core/rating/places.ts'
import { grownShelf } from '../../grown/shelf.ts'
import { simulateSession } from '../../simulate/session.ts'

/** Mean of what is found less what is so, of glide, turn and fade. */
function meanOff(numbers: readonly Float64Array[], so: (place: number) => readonly number[]): number[] {
  return [0, 1, 2].map((k) => mean(numbers, (n, i) => n[k]! - so(i)[k]!)!)
}

describe('a long shelf, each disc thrown a few times', () => {
  it('drags neither its discs nor the habits of who threw them', () => {
    const kin = Array.from({ length: 120 }, (_, i) => ({
      mold: `mold ${Math.floor(i / 6)}`,
      plastic: ['soft', 'firm', 'hard'][i % 3]!,
    }))
    const { evidence, truth } = simulateSession({
      seed: 0.37,
      throws: 1080,
      discs: kin.length,
      kin,
      throwers: 2,
    })
    const state = fit(evidence)
    const off = meanOff(state.numbers, (i) => {
      const { glide, turn, fade } = truth.get(evidence.discs[i]!.id)!
      return [glide, turn, fade]
    })
    for (const v of off) expect(Math.abs(v)).lessThan(0.3)
    for (const habit of state.habits) expect(Math.abs(habit[HABIT.lnSpin]!)).lessThan(0.3)
  })

  it('nor where throws scatter unlike what is believed: no wind at all, and landings without an error', () => {
    const { shelf, trials, throws, sessions, throwers } = grownShelf()
    const ids = new Set(trials.slice(0, 12).map((t) => t.id))
    const thrown = throws.filter((t) => ids.has(t.trialId))
    const used = new Set(thrown.map((t) => t.discId))
    const discs = shelvedDiscs(shelf).filter((d) => used.has(d.disc.id))
    const sheet = sheetOf(
      { trial: { controlDiscId: null }, sessions: [...sessions], throws: thrown },
      discs,
      throwers,
    )
    const evidence: Evidence = evidenceOf(
      sheet,
      discs.map((d) => ratedFromShelf(d, null)),
    )
    const state = fit(evidence)
    expect(evidence.throws.length).greaterThan(1000)
    // they were made at their labels on average; wear is believed to take a little of turn and fade
    const off = meanOff(state.numbers, (i) => {
      const { glide, turn, fade } = evidence.discs[i]!.published
      return [glide, turn, fade]
    })
    for (const v of off) expect(Math.abs(v)).lessThan(0.5)
    for (const habit of state.habits) {
      expect(Math.abs(habit[HABIT.lnSpin]!)).lessThan(0.25)
      expect(Math.abs(habit[HABIT.hyzer]! - 0.02)).lessThan(0.03)
    }
  })
})
