import { expect } from 'chai'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { chanceOf, CLOUD, cloudOf } from '../../../core/lab/cloud.ts'
import type { Obstacle } from '../../../core/lab/field.ts'
import { labFlightOf } from '../../../core/lab/flight.ts'
import type { LabThrow, Setup } from '../../../core/lab/setup.ts'
import { releaseOf } from '../../../core/lab/setup.ts'
import { armsShown, shiftOf, shiftRoot, SHIFTS } from '../../../core/lab/who.ts'
import type { ArmKnown } from '../../../core/lab/who.ts'
import { fit } from '../../../core/rating/fit.ts'
import { HABIT, OF_HABIT } from '../../../core/rating/places.ts'
import { habitWords } from '../../../web/flown/words.ts'
import { simulateSession } from '../../simulate/session.ts'
import { chancesOff } from '../../simulate/who.ts'
import { USUAL } from './usual.ts'

/** An arm with some habits, each known to so much. */
function armOf(habit: Partial<Record<keyof typeof HABIT, number>>, sd = 0): ArmKnown {
  const is = new Array<number>(OF_HABIT).fill(0)
  for (const [k, v] of Object.entries(habit)) is[HABIT[k as keyof typeof HABIT]] = v
  const covariance = new Array<number>(OF_HABIT ** 2).fill(0)
  for (let k = 0; k < OF_HABIT; k++) covariance[k * OF_HABIT + k] = sd * sd
  return { habit: is, covariance }
}
const setupOf = (rest: Partial<LabThrow> = {}, speed = 9): Setup => ({
  disc: { numbers: { speed, glide: 5, turn: -1, fade: 2 }, covariance: null, body: STANDARD_BODY },
  throw: { ...USUAL, ...rest },
  air: STILL_AIR,
})

describe('whoever throws in the lab', () => {
  it('throws as is meant and as is their habit', () => {
    const who = armOf({ hyzer: 3 * DEGREE, lnSpeed: -0.05, launch: DEGREE, nose: -DEGREE, lnSpin: 0.1 })
    const [plain, theirs] = [releaseOf(setupOf()), releaseOf(setupOf({ who }))]
    expect(theirs.hyzerRad - plain.hyzerRad).closeTo(3 * DEGREE, 1e-12)
    expect(theirs.launchRad - plain.launchRad).closeTo(DEGREE, 1e-12)
    expect(theirs.noseRad - plain.noseRad).closeTo(-DEGREE, 1e-12)
    expect(theirs.speedMps / plain.speedMps).closeTo(Math.exp(-0.05), 1e-12)
    expect(theirs.spinRadps / plain.spinRadps).closeTo(Math.exp(0.05), 1e-12)
    // with three degrees more hyzer it lands further to the fade side
    expect(labFlightOf(setupOf({ who: armOf({ hyzer: 3 * DEGREE }) }))!.landed.sideM).above(
      labFlightOf(setupOf())!.landed.sideM + 1,
    )
  })

  it('does so by the class of the disc where the habit grows with it', () => {
    const who = armOf({ hyzer: DEGREE, hyzerByClass: 0.5 * DEGREE, byClass: 0.01 })
    const [, , mid] = shiftOf(who, 5)
    const [fast, , driver] = shiftOf(who, 13)
    expect(mid! / DEGREE).closeTo(-1, 1e-9)
    expect(driver! / DEGREE).closeTo(3, 1e-9)
    expect(fast).closeTo(0.04, 1e-12)
    // what is not known of a habit that grows is not known the more the further the disc is from the usual
    const root = shiftRoot(armOf({}, 0.01), 13)
    expect(root[2 * SHIFTS + 2]! ** 2 + root[2 * SHIFTS]! ** 2 + root[2 * SHIFTS + 1]! ** 2).closeTo(
      0.01 ** 2 * (1 + 4 ** 2),
      1e-9,
    )
  })

  it('spreads the cloud by what is not known of them, and leaves it alone where all is known', () => {
    const zone: Obstacle[] = [{ kind: 'zone', at: labFlightOf(setupOf())!.landed, radiusM: 9 }]
    const chance = (who?: ArmKnown) => chanceOf(cloudOf(setupOf(who && { who }), zone, CLOUD), zone).both
    expect(chance(armOf({}))).closeTo(chance(), 0.03)
    expect(chance(armOf({}, 3 * DEGREE))).below(chance() - 0.1)
  })

  it('is shown by a fit with as many throws as say it, and by nobody who did not throw', () => {
    const { evidence, arms } = simulateSession({ seed: 0.7, called: true, control: true, throws: 48 })
    const shown = armsShown(fit({ ...evidence, arms: [...evidence.arms, { id: 'nobody' }] }))
    expect(shown.map((a) => [a.arm, a.throws])).deep.equal([['arm-0', 48]])
    const sd = Math.sqrt(shown[0]!.covariance[HABIT.hyzer * OF_HABIT + HABIT.hyzer]!)
    expect(shown[0]!.habit[HABIT.hyzer]).closeTo(arms[0]!.habit.hyzerRad, 3 * sd)
  })

  it('brings stated chances within ten points of the real ones, which they are far from without', () => {
    const { withWho, without } = chancesOff(7)
    expect(withWho).below(0.1)
    expect(without).above(1.5 * withWho)
  })

  it('is said in words, what hardly matters left away', () => {
    const known = {
      ...armOf({ hyzer: 2 * DEGREE, nose: 0.1 * DEGREE, lnSpeed: -0.04 }),
      throws: 12,
      scatter: 1,
    }
    const by = { thrower: 'Ida', stroke: 'backhand' as const }
    expect(habitWords(by, { ...known, ...by, hand: 'right' }, 'so it lands')).contain(
      'By 12 throws Ida’s backhand comes out 2° more hyzer, 4 % slower than meant; so it lands.',
    )
    expect(habitWords(by, undefined, '')).contain('Nothing is known of Ida’s backhand yet')
  })
})
