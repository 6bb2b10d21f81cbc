import type { Evidence, ThrowEvidence } from './evidence.ts'

/** A throw that a fit could not weigh, and why; everything else was weighed without it. */
export interface LeftOut {
  readonly throw: string
  /** In the middle of a sentence: “its recorded path has a value as large as 1e+308”. */
  readonly why: string
}

/** Thrown inside a fit when throws cannot be weighed; the fit begins again without them. */
export class Indigestible extends Error {
  constructor(readonly throws: readonly LeftOut[]) {
    super(throws.map((t) => `throw ${t.throw}: ${t.why}`).join('; '))
  }
}

/** Nothing seen of a throw is as large as this in any unit it is kept in. */
const BEYOND = 1e5

const CALLED: { readonly [K in keyof ThrowEvidence]?: string } = {
  carryM: 'landing down the line',
  veerM: 'landing off the line',
  air: 'air or wind',
  windSdMps: 'spread of the wind',
  mid: 'bend',
  hangS: 'hang time',
  apexM: 'height',
  releaseSpeedMps: 'release speed',
  spinRadps: 'spin',
  hyzerRad: 'release angle',
  aimRad: 'aim',
  hyzerCalledRad: 'measured release angle',
  noseCalledRad: 'measured nose angle',
  launchCalledRad: 'measured launch angle',
  power: 'power',
  path: 'recorded path',
}

const figures = (v: unknown): number[] =>
  typeof v === 'number' ? [v] : typeof v === 'object' && v !== null ? Object.values(v).flatMap(figures) : []

/** What is odd about a throw that cannot be weighed, in the middle of a sentence. */
export function oddity(t: ThrowEvidence): string {
  for (const [key, called] of Object.entries(CALLED)) {
    const odd = figures(t[key as keyof ThrowEvidence]).find((v) => !(Math.abs(v) < BEYOND))
    // the side it is on is the thrower’s affair
    if (odd !== undefined) return `its ${called} has a value as large as ${Math.abs(odd)}`
  }
  return 'what was seen of it goes together in no flight'
}

/** Evidence without some of its throws. */
export const without = (evidence: Evidence, out: readonly LeftOut[]): Evidence => {
  if (out.length === 0) return evidence
  const gone = new Set(out.map((t) => t.throw))
  return { ...evidence, throws: evidence.throws.filter((t) => !gone.has(t.id)) }
}
