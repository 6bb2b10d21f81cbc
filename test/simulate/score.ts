import type { FlightNumbers } from '../../core/flight/disc.ts'
import { labelScale, stabilityAt } from '../../core/flight/side.ts'
import { fit } from '../../core/rating/fit.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import { seedOf, simulateSession } from './session.ts'
import type { SessionDesign } from './session.ts'

/** How well a method did over many sessions. */
export interface Score {
  readonly turnRms: number
  readonly fadeRms: number
  readonly glideRms: number
  readonly stabilityRms: number
  /** Share of 90 % intervals that hold the truth, by number. */
  readonly held: {
    readonly glide: number
    readonly turn: number
    readonly fade: number
    readonly stability: number
  }
  /** Share of pairs at least 0.75 of a number apart by where they fly put in the right order. */
  readonly rightOrder: number
  /** Order by the published numbers, and by mean landing side, on the same pairs. */
  readonly rightOrderPublished: number
  readonly rightOrderMeanSide: number
  readonly publishedTurnRms: number
  readonly publishedFadeRms: number
  readonly pairs: number
  readonly unsettled: number
}

const Z90 = 1.6448536269514722
const rms = (errors: readonly number[]) => Math.sqrt(errors.reduce((s, e) => s + e * e, 0) / errors.length)
const share = (list: readonly boolean[]) => list.filter(Boolean).length / list.length

/** Simulates, rates and scores `sessions` sessions of a design, each with its own seed. */
export function scoreSessions(
  design: Omit<SessionDesign, 'seed'>,
  sessions: number,
  firstSeed: number,
): Score {
  const errors = {
    glide: [] as number[],
    turn: [] as number[],
    fade: [] as number[],
    stability: [] as number[],
  }
  const held = {
    glide: [] as boolean[],
    turn: [] as boolean[],
    fade: [] as boolean[],
    stability: [] as boolean[],
  }
  const published = { turn: [] as number[], fade: [] as number[] }
  const order = { fit: [] as boolean[], published: [] as boolean[], side: [] as boolean[] }
  let unsettled = 0
  for (let k = 0; k < sessions; k++) {
    const { evidence, truth, sides } = simulateSession({
      ...design,
      seed: seedOf(firstSeed + k),
    })
    const outcome = outcomeOf(fit(evidence))
    if (!outcome.converged) unsettled++
    const stability = (n: FlightNumbers) => n.turn + n.fade
    const flown = (d: { disc: string; published: FlightNumbers }) =>
      stabilityAt(labelScale(d.published), sides.get(d.disc)!.side)
    for (const d of outcome.discs) {
      const t = truth.get(d.disc)!
      const see = (key: keyof typeof errors, error: number, sd: number) => {
        errors[key].push(error)
        held[key].push(Math.abs(error) <= Z90 * sd)
      }
      see('glide', d.observed.glide - t.glide, d.sd.glide)
      see('turn', d.observed.turn - t.turn, d.sd.turn)
      see('fade', d.observed.fade - t.fade, d.sd.fade)
      see('stability', d.stability.value - flown(d), d.stability.sd)
      published.turn.push(d.published.turn - t.turn)
      published.fade.push(d.published.fade - t.fade)
    }
    const meanSide = new Map(
      evidence.discs.map((d) => {
        const own = evidence.throws.filter((t) => t.disc === d.id)
        return [d.id, own.reduce((s, t) => s + t.veerM, 0) / own.length]
      }),
    )
    for (const p of outcome.pairs) {
      const gap = sides.get(p.a)!.side - sides.get(p.b)!.side
      const labels = [p.a, p.b].map((id) => evidence.discs.find((d) => d.id === id)!.published)
      const number = (labelScale(labels[0]!).perNumber + labelScale(labels[1]!).perNumber) / 2
      if (Math.abs(gap) < 0.75 * number) continue
      order.fit.push(p.difference.value * gap > 0)
      const [a, b] = labels
      order.published.push((stability(a!) - stability(b!)) * gap > 0)
      order.side.push((meanSide.get(p.a)! - meanSide.get(p.b)!) * gap > 0)
    }
  }
  return {
    turnRms: rms(errors.turn),
    fadeRms: rms(errors.fade),
    glideRms: rms(errors.glide),
    stabilityRms: rms(errors.stability),
    held: {
      glide: share(held.glide),
      turn: share(held.turn),
      fade: share(held.fade),
      stability: share(held.stability),
    },
    rightOrder: share(order.fit),
    rightOrderPublished: share(order.published),
    rightOrderMeanSide: share(order.side),
    publishedTurnRms: rms(published.turn),
    publishedFadeRms: rms(published.fade),
    pairs: order.fit.length,
    unsettled,
  }
}
