import { expect } from 'chai'
import { mean, randomLcg, randomNormal } from 'd3'
import fc from 'fast-check'
import { Throw } from '../../../contract/trials.ts'
import { sheetOf, shelvedDiscs } from '../../../contract/sheet.ts'
import { wrongWords } from '../../../contract/words.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease, referenceSpeed, SPIN_PER_MPS } from '../../../core/flight/release.ts'
import { DEGREE, RPM } from '../../../core/flight/units.ts'
import { readThrowsCsv, writeThrowsCsv } from '../../../core/formats/throwsCsv.ts'
import { fit } from '../../../core/rating/fit.ts'
import { evidenceOf, throwEvidence } from '../../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import {
  brokenRules,
  NOTHING_OBSERVED,
  OBSERVED_KEYS,
  observedOf,
  observedOnSheet,
  present,
  rowOf,
  SEEN_KEYS,
} from '../../../core/throw/observed.ts'
import type { Observed, ObservedRow } from '../../../core/throw/observed.ts'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { harrowmere } from '../../../demo/harrowmere.ts'
import { demoId } from '../../../demo/shed.ts'

const demo = harrowmere()
const trial = demo.trials.find((t) => t.id === demoId('trial', 'four'))!
const [first] = demo.throws

/** Anything that could be observed, row by row of the table. */
const anyOf = (row: ObservedRow): fc.Arbitrary<unknown> => {
  const value: fc.Arbitrary<unknown> =
    row.kind === 'figure'
      ? fc
          .double({ min: row.range[0], max: row.range[1], noNaN: true })
          .map((v) => Math.round(100 * v) / 100 + 0)
          .map((v) => Math.min(row.range[1], Math.max(row.range[0], v)))
      : row.kind === 'choice'
        ? fc.constantFrom(...row.choices)
        : row.kind === 'truth'
          ? fc.boolean()
          : fc.stringMatching(/^[a-z]{1,20}$/)
  return row.need === 'always' ? value : fc.option(value, { nil: null })
}
const anyObserved = fc
  .record(Object.fromEntries(OBSERVED_KEYS.map((k) => [k, anyOf(rowOf(k))])))
  .map((o) => o as unknown as Observed)
  .filter((o) => brokenRules(o).length === 0)

describe('what can be observed of a throw', () => {
  it('crosses the wire, the sheet and a file whole, whatever of it was observed', () => {
    const discs = shelvedDiscs(demo)
    fc.assert(
      fc.property(anyObserved, (observed) => {
        const row = Throw.parse({ ...first!, path: null, notes: {}, ...observed, label: 'a' })
        expect(observedOf(row)).deep.equal(observed)
        const [line] = sheetOf(
          { trial, sessions: demo.sessions, throws: [row] },
          discs,
          demo.throwers,
          'label',
        )
        expect(observedOnSheet(line!)).deep.equal(observed)
        const read = readThrowsCsv(writeThrowsCsv([line!]))
        if (!read.ok) throw new Error(JSON.stringify(read.problems))
        expect(observedOnSheet(read.throws[0]!)).deep.equal(observed)
      }),
      { numRuns: 150 },
    )
  })

  it('is refused out of its range by what it is called, and not by how it is written down', () => {
    for (const key of OBSERVED_KEYS) {
      const row = rowOf(key)
      if (row.kind !== 'figure') continue
      const wrong = Throw.safeParse({ ...first!, path: null, [key]: row.range[1] + 1 })
      expect(wrong.success, key).equal(false)
      const sentence = wrongWords(wrong.error!.issues.find((i) => i.path[0] === key)!)
      expect(sentence).match(new RegExp(`^The ${row.words} is .* must lie between`))
      if (key !== row.words) expect(sentence).not.include(key)
    }
  })

  it('has a column and words of its own, each', () => {
    const rows = OBSERVED_KEYS.map(rowOf)
    expect(new Set(rows.map((r) => r.column)).size).equal(rows.length)
    expect(new Set(rows.map((r) => r.words)).size).equal(rows.length)
    expect(Object.keys(NOTHING_OBSERVED)).members([...SEEN_KEYS])
    expect(present({ a: 1, b: null, c: undefined, d: 0, e: false })).deep.equal({ a: 1, d: 0, e: false })
  })

  it('knows what does not go together', () => {
    expect(brokenRules({ midDownM: 40 }).map((r) => r.key)).deep.equal(['midRightM'])
    expect(brokenRules({ midRightM: 4 }).map((r) => r.key)).deep.equal(['midDownM'])
    expect(brokenRules({ midDownM: 90, midRightM: 0, carryM: 80 })[0]!.message).match(/short of the landing/)
    expect(brokenRules({ midDownM: 40, midRightM: -3, carryM: 80 })).deep.equal([])
  })
})

describe('measured spin', () => {
  const published = { speed: 9, glide: 5, turn: -1, fade: 2 }
  const clean = cleanRelease(referenceSpeed(9))
  const usualRpm = (SPIN_PER_MPS * clean.speedMps) / RPM
  const angles = [10, 0, -8]
  /** Throws of a disc just as it is labelled, at three angles, with so much of the usual spin; landings seen to a metre. */
  const sheet = (share: number, measured: boolean, seed: number): SheetThrow[] => {
    const normal = randomNormal.source(randomLcg(seed))()
    return Array.from({ length: 36 }, (_, i) => {
      const hyzerDeg = angles[i % 3]!
      const came = hyzerDeg + 2 * normal()
      const release = { ...cleanRelease(clean.speedMps, came * DEGREE), spinRadps: share * clean.spinRadps }
      const { carryM, veerM } = landing(published, STANDARD_BODY, release, STILL_AIR)
      return present({
        ...NOTHING_OBSERVED,
        throw: String(i),
        thrower: 'Odile',
        hand: 'right' as const,
        stroke: 'backhand' as const,
        disc: 'a',
        ...published,
        fullSpeedMps: clean.speedMps,
        power: 1,
        hyzerDeg,
        hyzerCalledDeg: came + normal(),
        releaseSpeedMps: clean.speedMps,
        windAlongMps: 0,
        windAcrossMps: 0,
        carryM: carryM + normal(),
        rightM: -veerM + normal(),
        spinRpm: measured ? share * usualRpm : null,
        counts: true,
      })
    })
  }
  /** How far turn and fade are read from the label, on average over a few sessions. */
  const offLabel = (share: number, measured: boolean) =>
    mean([0.1, 0.3, 0.5, 0.7], (seed) => {
      const { discs } = outcomeOf(fit(evidenceOf(sheet(share, measured, seed))))
      const { observed } = discs[0]!
      return Math.hypot(observed.turn - published.turn, observed.fade - published.fade)
    })!

  it('becomes the spin of the release, in radians a second', () => {
    expect(throwEvidence(sheet(1, true, 0.2)[0]!).spinRadps).closeTo(clean.spinRadps, 1e-9)
    expect(throwEvidence(sheet(1, false, 0.2)[0]!).spinRadps).equal(undefined)
  })

  it('keeps a throw with little spin from being taken for another disc', () => {
    expect(offLabel(0.6, true)).lessThan(0.35)
    expect(offLabel(0.6, false)).greaterThan(2 * offLabel(0.6, true))
  })

  it('changes hardly anything where it is the spin that goes with the speed anyway', () => {
    expect(offLabel(1, true)).closeTo(offLabel(1, false), 0.1)
  })
})
