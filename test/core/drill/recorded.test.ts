import { expect } from 'chai'
import { askedOfRecorded, questionOfRecorded, recordedFlight } from '../../../core/drill/recorded.ts'
import type { RecordedThrow } from '../../../core/drill/recorded.ts'
import { likeOf } from '../../../core/drill/watcher.ts'
import { recordedThrow } from '../../../contract/drill.ts'

const at = [0, 1, 2, 3, 4, 5]
const thrown = (change: Partial<RecordedThrow> = {}): RecordedThrow => ({
  name: 'HS-017, 2026-10-04',
  timeS: at.map((i) => 0.4 + 0.8 * i),
  downM: at.map((i) => 16 * i),
  sideM: at.map((i) => 0.3 * i * i),
  upM: at.map((i) => 1.2 + 2 * i * (5 - i)),
  landed: { downM: 80, sideM: 7.5 },
  hyzerDeg: 9,
  noseDeg: 0,
  wind: { windAlongMps: -3, windTowardFadeMps: 0.5 },
  rated: { turn: { value: -1.6, sd: 0.2 }, fade: { value: 1.7, sd: 0.6 } },
  ...change,
})

describe('a recorded throw that is asked about', () => {
  it('is shown from its first instant on, and asked only for what is known of it surely', () => {
    const flight = recordedFlight(thrown())!
    expect(flight.timeS[0]).equal(0)
    expect(flight.hangS).closeTo(4, 1e-9)
    expect(flight.landed).deep.equal({ downM: 80, sideM: 7.5 })
    // its fade is not sure enough to be a truth
    expect(askedOfRecorded(thrown())).deep.equal(['landing', 'turn'])
    expect(askedOfRecorded(thrown({ rated: undefined }))).deep.equal(['landing'])
    const turn = questionOfRecorded('turn', 0.5, thrown())
    expect(turn.truth).deep.equal({ kind: 'range', value: -1.6 })
    expect(likeOf(turn)).deep.equal(['always', 'hyzer', 'headwind'])
    const landing = questionOfRecorded('landing', 1, thrown({ wind: undefined }))
    expect(landing.truth).deep.equal({ kind: 'circle', at: { downM: 80, sideM: 7.5 } })
    expect(landing.shownPart).lessThan(questionOfRecorded('landing', 0, thrown()).shownPart)
    expect(landing.windShown).equal(false)
    expect(() => questionOfRecorded('fade', 0, thrown())).throw(RangeError)
    expect(() => questionOfRecorded('nose', 0, thrown())).throw(RangeError)
  })

  it('cannot be looked at without times, without heights, or of a few points', () => {
    const few = (of: readonly number[]) => of.slice(0, 3)
    const { timeS, downM, sideM, upM } = thrown()
    for (const bad of [
      thrown({ timeS: [] }),
      thrown({ upM: [] }),
      thrown({ timeS: few(timeS), downM: few(downM), sideM: few(sideM), upM: few(upM) }),
      thrown({ timeS: timeS.map(() => 1) }),
    ]) {
      expect(recordedFlight(bad)).equal(undefined)
      expect(askedOfRecorded(bad)).deep.equal([])
      expect(() => questionOfRecorded('landing', 0, bad)).throw(RangeError)
    }
  })

  it('of a right hand fades to the left, of a left hand to the right', () => {
    const row = {
      throwId: 'a',
      trialId: 'b',
      day: '2026-10-04',
      place: 'Millpond meadow',
      disc: 'HS-017',
      stroke: 'backhand' as const,
      hyzerDeg: 10,
      hyzerCalledDeg: 7,
      noseCalledDeg: null,
      windAlongMps: -2,
      windAcrossMps: 1,
      carryM: 80,
      rightM: -6,
      path: { timeS: at, downM: at, rightM: at.map((i) => -i), upM: at },
      rated: null,
    }
    const right = recordedThrow({ ...row, hand: 'right' })
    const left = recordedThrow({ ...row, hand: 'left' })
    expect(right.landed.sideM).equal(6)
    expect(left.landed.sideM).equal(-6)
    expect(right.sideM[3]).equal(3)
    expect(right.wind!.windTowardFadeMps).equal(-1)
    expect(left.wind!.windTowardFadeMps).equal(1)
    expect(right).include({ hyzerDeg: 7, noseDeg: 0, name: 'HS-017, 2026-10-04, Millpond meadow' })
  })
})
