import { expect } from 'chai'
import { slippedThrows, withoutSlip } from '../../../core/judge/slips.ts'
import { fit } from '../../../core/rating/fit.ts'
import { lnForetold } from '../../../core/rating/foretold.ts'
import { seedOf, simulateSession } from '../../simulate/session.ts'
import { mistaken, noticed } from '../../simulate/slips.ts'

const DESIGN = { throws: 36, discs: 4, called: true, gusts: 0.6 }
const { evidence } = simulateSession({ ...DESIGN, seed: seedOf(54_001) })

describe('a throw that was logged wrong', () => {
  it('is named for what it was: the side, the angle, the unit', () => {
    const sessions = 5
    for (const [made, least] of [
      ['side', 2],
      ['angle', 2],
      ['feet', 4],
    ] as const) {
      const told = noticed(DESIGN, made, sessions, 54_100)
      expect(told.named, made).least(least)
      expect(told.otherwise + told.elsewhere, made).most(2)
    }
  })

  it('is named for its disc where the two fly far apart, and not where nobody could tell', () => {
    const { evidence, sides } = simulateSession({ ...DESIGN, apart: 3, seed: seedOf(54_205) })
    const order = [...sides].sort((a, b) => b[1].side - a[1].side).map(([id]) => id)
    const found = (was: string, logged: string) =>
      evidence.throws
        .filter((t) => t.disc === was)
        .slice(0, 5)
        .filter((t) => {
          const throws = evidence.throws.map((o) => (o.id === t.id ? { ...o, disc: logged } : o))
          const [first] = slippedThrows(fit({ ...evidence, throws }), new Set([t.id]), order)
          return first?.slip.kind === 'disc' && first.slip.disc === was
        }).length
    expect(found(order[0]!, order[3]!)).least(3)
    const { evidence: alike } = simulateSession({ ...DESIGN, apart: 0.1, seed: seedOf(54_204) })
    const [t] = alike.throws
    const wrong = alike.discs.find((d) => d.id !== t!.disc)!.id
    const throws = alike.throws.map((o) => (o === t ? { ...o, disc: wrong } : o))
    expect(
      slippedThrows(fit({ ...alike, throws }), new Set([t!.id])).filter((f) => f.slip.kind === 'disc'),
    ).deep.equal([])
  })

  it('is hardly ever seen where all was logged right, bad throws among them', () => {
    expect(mistaken(DESIGN, 8, 54_300)).most(1)
    expect(mistaken({ ...DESIGN, bad: 0.1 }, 6, 54_400)).most(2)
  })

  it('is the throw it was once it is put right', () => {
    const t = { ...evidence.throws[0]!, hyzerRad: 0.2, hyzerCalledRad: 0.21, mid: { downM: 40, veerM: -3 } }
    for (const kind of ['side', 'angle'] as const)
      expect(withoutSlip(withoutSlip(t, { kind }), { kind })).deep.equal(t)
    const back = withoutSlip(withoutSlip(t, { kind: 'feet' }), { kind: 'metres' })
    expect(back.carryM).closeTo(t.carryM, 1e-9)
    expect(back.mid!.veerM).closeTo(-3, 1e-9)
    expect(withoutSlip(t, { kind: 'disc', disc: 'disc-2' }).disc).equal('disc-2')
  })

  it('is not asked about where it does not count, nor for the side where its path was recorded', () => {
    const wrong = withoutSlip(evidence.throws[0]!, { kind: 'metres' })
    const [, ...others] = evidence.throws
    const found = (t: typeof wrong) => slippedThrows(fit({ ...evidence, throws: [t, ...others] }))
    expect(found(wrong).map((f) => [f.throw, f.slip.kind])).deep.equal([[wrong.id, 'feet']])
    expect(found({ ...wrong, counts: false })).deep.equal([])
    const recorded = simulateSession({ ...DESIGN, throws: 12, recorded: true, seed: seedOf(54_002) }).evidence
    const [first, ...rest] = recorded.throws
    const turned = { ...first!, veerM: -first!.veerM - 20 }
    const said = slippedThrows(fit({ ...recorded, throws: [turned, ...rest] }))
    expect(
      said.filter((f) => f.throw === first!.id && ['side', 'feet', 'metres'].includes(f.slip.kind)),
    ).deep.equal([])
  })

  it('is weighed by what all the others foretell: likeliest where it was thrown', () => {
    let closer = 0
    for (const t of evidence.throws.slice(0, 12)) {
      const state = fit({ ...evidence, throws: evidence.throws.filter((o) => o.id !== t.id) })
      const own = lnForetold(state, t)
      expect(own).finite
      if (own > lnForetold(state, { ...t, veerM: t.veerM + 15 })) closer++
    }
    expect(closer).least(11)
    expect(() => lnForetold(fit(evidence), { ...evidence.throws[0]!, disc: 'nobody' })).throw('nobody')
  })
})
