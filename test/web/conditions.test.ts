import { expect } from 'chai'
import { MEASURING_METHODS } from '../../core/throw/method.ts'
import { MAX_ROWS, observationsOf } from '../../core/rating/observations.ts'
import { STILL_AIR } from '../../core/flight/air.ts'
import type { Session, Throw } from '../../contract/trials.ts'
import { conditionsOf } from '../../web/data/conditions.ts'
import type { TrialView } from '../../web/data/hooks.ts'
import { METHODS, methodWords } from '../../web/data/methodWords.ts'
import { unitsOf } from '../../web/data/units.ts'

/** A trial of one throw whose landing was measured in some way. */
const measuredBy = (method: Session['method']) =>
  ({
    throws: [{ sessionId: 's', throwerId: 'p', windAlongMps: null } as Throw],
    throwers: [{ id: 'p', name: 'Ida' }],
    sessions: [
      {
        id: 's',
        day: '2026-05-09',
        place: 'Lakeside',
        method,
        temperatureC: null,
        watcherSdDeg: null,
      } as Session,
    ],
  }) as unknown as TrialView

describe('the conditions of a trial', () => {
  it('say in words how landings were measured, whatever way it was', () => {
    for (const method of MEASURING_METHODS) {
      const said = conditionsOf(measuredBy(method), unitsOf('metric'))
      expect(said, method).include(`landings ${METHODS[method].landings}`)
      expect(said.join()).not.contain('undefined')
      expect(methodWords(method)).match(/ ± /)
    }
  })
})

describe('the rows of a throw', () => {
  it('have room for everything that can be seen of one at once', () => {
    const flight = Array.from({ length: 60 }, (_, i) => i)
    const { kinds } = observationsOf({
      id: 't',
      disc: 'd',
      arm: 'a',
      power: 1,
      hyzerRad: 0.1,
      air: STILL_AIR,
      carryM: 90,
      veerM: 4,
      mid: { downM: 50, veerM: 1 },
      hangS: 6,
      apexM: 8,
      releaseSpeedMps: 25,
      hyzerCalledRad: 0.1,
      noseCalledRad: 0,
      launchCalledRad: 0.2,
      calls: ['stood up', 'dumped'],
      path: {
        downM: flight.map((i) => 2 + 1.5 * i),
        veerM: flight.map((i) => 0.05 * i),
        upM: flight.map((i) => 8 - 0.01 * (i - 30) ** 2),
        timeS: flight.map((i) => 0.1 * i),
      },
      counts: true,
    })
    expect(kinds).length(MAX_ROWS)
  })
})
