import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { fullSpeedWith } from '../../../core/flight/arm.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease } from '../../../core/flight/release.ts'
import { tellsWords } from '../../../core/judge/tellingShot.ts'
import { fit } from '../../../core/rating/fit.ts'
import { flewLike } from '../../../core/judge/flewLike.ts'
import { simulateSession } from '../../simulate/session.ts'

describe('whether two discs flew alike', () => {
  const { evidence } = simulateSession({ seed: 0.31 })
  const state = fit(evidence)
  const [a, b] = evidence.discs.map((d) => d.id) as [string, string]

  it('says nought of a disc and itself, and the same both ways', () => {
    expect(flewLike(state, a, a)!.distanceM).equal(0)
    expect(flewLike(state, a, a)!.overlaps).equal(true)
    expect(flewLike(state, a, b)!.distanceM).closeTo(flewLike(state, b, a)!.distanceM, 1e-9)
  })

  it('tells discs apart that fly apart: the most from the least stable of a session', () => {
    const stable = evidence.discs
      .map((d, i) => ({ id: d.id, s: state.numbers[i]![1]! + state.numbers[i]![2]! }))
      .sort((x, y) => y.s - x.s)
    const [most, least] = [stable[0]!, stable[stable.length - 1]!]
    const far = flewLike(state, most.id, least.id)!
    expect(far.distanceM).greaterThan(0.5 * far.spread.pathM)
    expect(far.overlaps).equal(false)
  })

  it('names the shot that tells two apart, how far apart they then land, and that against the scatter of the arm', () => {
    const { shot, armMps } = flewLike(state, a, b)!
    const again = flewLike(state, a, b, armMps)!.shot
    expect(again).deep.equal(shot)
    const bodies = [a, b].map((id) => {
      const i = evidence.discs.findIndex((d) => d.id === id)
      const { published, body } = evidence.discs[i]!
      const [glide, turn, fade] = state.numbers[i]!
      return { numbers: { speed: published.speed, glide: glide!, turn: turn!, fade: fade! }, body }
    })
    const land = (i: number, power: number, hyzerRad: number, windAlongMps: number) => {
      const { numbers, body } = bodies[i]!
      const release = cleanRelease(power * fullSpeedWith(armMps, numbers.speed), hyzerRad)
      const { carryM, veerM } = landing(numbers, body, release, { ...STILL_AIR, windAlongMps })
      return [carryM, veerM] as const
    }
    const apart = (power: number, hyzerRad: number, wind: number) => {
      const [x, y] = [0, 1].map((i) => land(i, power, hyzerRad, wind))
      return Math.hypot(x![0] - y![0], x![1] - y![1])
    }
    expect(apart(shot.power, shot.hyzerRad, shot.windAlongMps)).closeTo(shot.apartM, 1e-6)
    // a noisier arm tells less by the same throw; another arm has a shot of its own
    const noisier = { ...state, scales: state.scales.map((v) => 4 * v) }
    expect(flewLike(noisier, a, b)!.shot.against).closeTo(shot.against / 2, 0.05 * shot.against)
    expect(flewLike(state, a, b, 18)!.armMps).equal(18)
    expect(flewLike(state, a, b, 18)!.shot.apartM).lessThan(shot.apartM)
    expect(tellsWords(shot, 'Flint', 'Ash', { name: (d) => d })).match(
      /tells Flint from Ash.* they land \d+\.\d m apart, \d+\.\d times what two throws scatter$/,
    )
  })

  it('says nothing before both were thrown, and knows no disc that is not there', () => {
    const unthrown = fit({ ...evidence, throws: evidence.throws.filter((t) => t.disc !== b) })
    expect(flewLike(unthrown, a, b)).equal(undefined)
    expect(() => flewLike(state, a, 'nobody')).not.throw()
    expect(flewLike(state, a, 'nobody')).equal(undefined)
  })
})
