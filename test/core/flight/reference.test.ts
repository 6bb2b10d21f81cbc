import { readFileSync } from 'node:fs'
import { expect } from 'chai'
import type { FlightNumbers } from '../../../core/flight/disc.ts'
import type { Release } from '../../../core/flight/release.ts'
import type { Air } from '../../../core/flight/air.ts'
import { pathFeatures, tracePath } from '../../../core/flight/path.ts'
import { landing } from '../../../core/flight/landing.ts'

interface Reference {
  name: string
  numbers: FlightNumbers
  massKg: number
  release: Release
  air: Air
  flight: Record<
    | 'carry'
    | 'veer'
    | 'time'
    | 'apex'
    | 'widestTurn'
    | 'widestTurnAt'
    | 'endBank'
    | 'endSpeed'
    | 'minBank'
    | 'maxBank',
    number
  >
}

const references = JSON.parse(
  readFileSync(new URL('./reference-flights.json', import.meta.url), 'utf8'),
) as Reference[]

describe('flights integrated elsewhere to 1e-10', () => {
  it('are sixteen', () => expect(references).to.have.length(16))

  for (const { name, numbers, massKg, release, air, flight } of references) {
    const body = { massKg, diameterM: 0.212 }

    it(`path of: ${name}`, () => {
      const f = pathFeatures(tracePath(numbers, body, release, air))
      expect(f.carryM).closeTo(flight.carry, 0.01)
      expect(f.veerM).closeTo(flight.veer, 0.01)
      expect(f.hangS).closeTo(flight.time, 0.005)
      expect(f.apexM).closeTo(flight.apex, 0.01)
      expect(f.endSpeedMps).closeTo(flight.endSpeed, 0.01)
      expect(f.endBankRad).closeTo(flight.endBank, 0.002)
      expect(f.minBankRad).closeTo(flight.minBank, 0.002)
      expect(f.maxBankRad).closeTo(flight.maxBank, 0.002)
      expect(f.widestTurnM).closeTo(flight.widestTurn, 0.01)
      // a flat maximum: its depth is exact to a centimetre long before its place is
      if (flight.widestTurn < -0.1) expect(f.widestTurnAtM).closeTo(flight.widestTurnAt, 0.1)
    })

    it(`landing of: ${name}`, () => {
      const l = landing(numbers, body, release, air)
      expect(l.carryM).closeTo(flight.carry, 0.01)
      expect(l.veerM).closeTo(flight.veer, 0.01)
      expect(l.hangS).closeTo(flight.time, 0.005)
      expect(l.apexM).closeTo(flight.apex, 0.01)
    })
  }
})
