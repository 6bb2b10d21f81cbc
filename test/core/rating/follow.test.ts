import { expect } from 'chai'
import { baseOf } from '../../../core/rating/base.ts'
import type { Evidence, ThrowEvidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { follow, ratingAfter } from '../../../core/rating/follow.ts'
import { discsOf } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'

const KIN = ['Ash', 'Birch'].flatMap((mold) => ['soft', 'hard'].map((plastic) => ({ mold, plastic })))
const DESIGN = { throws: 120, discs: 4, called: true, kin: KIN, outings: 3 } as const

/** A session cut in two: what a fit has weighed, and what comes after it. */
function cut(seed: number, after: number, design: object = DESIGN) {
  const { evidence } = simulateSession({ ...DESIGN, ...design, seed })
  const from = evidence.throws.length - after
  return { evidence, before: evidence.throws.slice(0, from), more: evidence.throws.slice(from) }
}
const touching = (evidence: Evidence, throws: readonly ThrowEvidence[]): Evidence => ({
  discs: evidence.discs.filter((d) => throws.some((t) => t.disc === d.id)),
  arms: evidence.arms.filter((a) => throws.some((t) => t.arm === a.id)),
  throws,
})

/** How far what follows lies from a full fit in its standard deviations: s of every disc, squared. */
function apart(seed: number, after: number) {
  const { evidence, before, more } = cut(seed, after)
  const first = fit({ ...evidence, throws: before })
  const base = baseOf(first)
  const followed = follow(base, touching(evidence, more)).discs.map((d) => ratingAfter(base, d))
  const full = discsOf(fit(evidence, { warm: first }))
  const stale = discsOf(first)
  return full.map((d, i) => {
    const off = (value: number) => ((value - d.stability.value) / d.stability.sd) ** 2
    return {
      followed: off(followed[i]!.stability.value),
      stale: off(stale[i]!.stability.value),
      sd: followed[i]!.stability.sd / d.stability.sd,
    }
  })
}
const rms = (squares: readonly number[]) => Math.sqrt(squares.reduce((s, v) => s + v, 0) / squares.length)
const seeds = Array.from({ length: 12 }, (_, k) => (0.13 + 0.618 * k) % 1)

describe('a few more throws on top of a fit', () => {
  it('agree with a full fit within a twentieth of a standard deviation after one, and narrow what it narrows', () => {
    const all = seeds.flatMap((seed) => apart(seed, 1))
    expect(rms(all.map((a) => a.followed))).lessThan(0.05)
    expect(rms(all.map((a) => a.stale))).greaterThan(2 * rms(all.map((a) => a.followed)))
    // its spread is the full fit's to a few parts in a hundred, and of no disc far from it
    expect(rms(all.map((a) => (a.sd - 1) ** 2))).lessThan(0.035)
    for (const a of all) expect(a.sd).within(0.9, 1.1)
  })

  it('are as good as weighed together after a dozen', () => {
    const all = seeds.flatMap((seed) => apart(seed, 12))
    expect(rms(all.map((a) => a.followed))).lessThan(0.15)
    expect(rms(all.map((a) => a.stale))).greaterThan(3 * rms(all.map((a) => a.followed)))
  })

  it('may be of a disc, an arm and an outing that the fit has not seen', () => {
    const { evidence, before } = cut(0.4, 0)
    const known = before.filter((t) => t.disc !== 'disc-3' && t.outing !== 'outing 2')
    const more = before.filter((t) => t.disc === 'disc-3' && t.outing === 'outing 2')
    const discs = evidence.discs.filter((d) => d.id !== 'disc-3')
    const arms = evidence.arms.filter((a) => known.some((t) => t.arm === a.id))
    expect(more.length).greaterThan(3)
    const first = fit({ discs, arms, throws: known })
    const base = baseOf(first)
    const followed = follow(base, touching(evidence, more)).discs
    expect(followed.map((d) => d.disc.id)).members(evidence.discs.map((d) => d.id))
    const fresh = ratingAfter(
      base,
      followed.find((d) => d.disc.id === 'disc-3')!,
    )
    const full = discsOf(fit({ ...evidence, throws: [...known, ...more] }, { warm: first })).find(
      (d) => d.disc === 'disc-3',
    )!
    expect(fresh.stability.sd).closeTo(full.stability.sd, 0.25 * full.stability.sd)
    expect(Math.abs(fresh.stability.value - full.stability.value)).lessThan(0.4 * full.stability.sd)
  })

  it('move nothing where they do not count, and name those that no arithmetic holds', () => {
    const { evidence, before, more } = cut(0.7, 2)
    const base = baseOf(fit({ ...evidence, throws: before }))
    const [one, other] = more as [ThrowEvidence, ThrowEvidence]
    const aside = follow(base, touching(evidence, [{ ...one, counts: false }]))
    for (const d of aside.discs) expect(d.moved).lessThan(1e-6)
    const wild = follow(base, touching(evidence, [one, { ...other, carryM: 1e308 }]))
    expect(wild.leftOut.map((t) => t.throw)).deep.equal([other.id])
    const alone = follow(base, touching(evidence, [one]))
    wild.discs.forEach((d, i) =>
      d.numbers.forEach((v, k) => expect(v).closeTo(alone.discs[i]!.numbers[k]!, 2e-3)),
    )
  })

  it('can follow a base that has travelled between threads', () => {
    const { evidence, before, more } = cut(0.2, 1)
    const base = baseOf(fit({ ...evidence, throws: before }))
    const there = follow(structuredClone(base), touching(evidence, more))
    expect(there).deep.equal(follow(base, touching(evidence, more)))
  })
})
