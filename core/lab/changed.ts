import { noDistances, LOGGED } from '../flight/landing.ts'
import { shapley } from '../judge/shapley.ts'
import { NOTHING_DIFFERS, tracedBy } from './cloud.ts'
import type { Setup } from './setup.ts'

/** What may differ between two throws. */
export const CHANGES = ['disc', 'speed', 'angle', 'nose', 'launch', 'aim', 'spin', 'wind', 'air'] as const
export type Change = (typeof CHANGES)[number]

/** A difference on the field, m: downrange, to the fade side where it lands, and to the fade side 60 % of the way. */
export interface Moved {
  readonly carryM: number
  readonly veerM: number
  readonly at60M: number
}

/** One setup with what differs taken from another. */
function withChange(from: Setup, to: Setup, change: Change): Setup {
  switch (change) {
    case 'disc':
      return { ...from, disc: to.disc }
    case 'speed':
      return { ...from, throw: { ...from.throw, armMps: to.throw.armMps, power: to.throw.power } }
    case 'angle':
      return { ...from, throw: { ...from.throw, hyzerDeg: to.throw.hyzerDeg } }
    case 'nose':
      return { ...from, throw: { ...from.throw, noseDeg: to.throw.noseDeg } }
    case 'launch':
      return { ...from, throw: { ...from.throw, launchDeg: to.throw.launchDeg } }
    case 'aim':
      return { ...from, throw: { ...from.throw, aimDeg: to.throw.aimDeg } }
    case 'spin':
      return { ...from, throw: { ...from.throw, spin: to.throw.spin } }
    case 'wind':
      return {
        ...from,
        air: {
          ...from.air,
          windAlongMps: to.air.windAlongMps,
          windTowardFadeMps: to.air.windTowardFadeMps,
          shearExponent: to.air.shearExponent,
        },
      }
    case 'air':
      return { ...from, air: { ...from.air, densityKgM3: to.air.densityKgM3 } }
  }
}

const LATE = 0.6
const log = noDistances()
/** Where a throw comes down, and where it is 60 % of the way there. */
function flown(setup: Setup): [number, number, number] {
  const found = tracedBy(setup, NOTHING_DIFFERS, log)
  if (!found) throw new RangeError('A throw between the two does not come down.')
  const { downM, sideM } = found.landed
  const late = LATE * downM
  let i = 0
  while (i < found.steps - 1 && log[(i + 1) * LOGGED + 1]! < late) i++
  const [x0, y0] = [log[i * LOGGED + 1]!, log[i * LOGGED + 2]!]
  const [x1, y1] = [log[(i + 1) * LOGGED + 1]!, log[(i + 1) * LOGGED + 2]!]
  return [downM, sideM, y0 + ((y1 - y0) * (late - x0)) / (x1 - x0 || 1)]
}

/** What makes two throws end apart, each difference on its own; those that do not differ are left out. */
export interface WhatChanged {
  readonly whole: Moved
  readonly parts: readonly (Moved & { readonly change: Change })[]
}

/**
 * What changed between two throws: each difference with its Shapley value, so that all together are the whole.
 *
 * @throws RangeError where a throw with some of the differences does not come down
 */
export function whatChanged(from: Setup, to: Setup): WhatChanged {
  const differs = CHANGES.filter((c) => JSON.stringify(withChange(from, to, c)) !== JSON.stringify(from))
  const figures = (set: number) =>
    flown(differs.reduce((s, c, i) => (set & (1 << i) ? withChange(s, to, c) : s), from))
  const moved = ([carryM, veerM, at60M]: readonly number[]): Moved => ({
    carryM: carryM!,
    veerM: veerM!,
    at60M: at60M!,
  })
  const [before, after] = [flown(from), flown(to)]
  return {
    whole: moved(after.map((v, i) => v - before[i]!)),
    parts: shapley(differs.length, figures).map((row, i) => ({ change: differs[i]!, ...moved(row) })),
  }
}
