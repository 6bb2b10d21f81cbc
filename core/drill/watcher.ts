import { factorise, inverse, solve } from '../rating/cholesky.ts'
import type { Estimate } from '../rating/outcome.ts'
import type { DrillReply, DrillQuestion, DrillKind, DrillThrow, Truth } from './question.ts'

/** What is seen with an error that has a size, its unit, how far a usual eye is off each time, and how far always. */
export const MEASURES = {
  angle: { unit: '°', offSd: 6, biasSd: 4 },
  turn: { unit: '', offSd: 0.8, biasSd: 0.5 },
  fade: { unit: '', offSd: 0.8, biasSd: 0.5 },
  along: { unit: 'm', offSd: 8, biasSd: 5 },
  aside: { unit: 'm', offSd: 6, biasSd: 4 },
} as const
export type EyeMeasure = keyof typeof MEASURES

/** What an eye may be biased by: always, or where a throw is like that. */
export const FACTORS = {
  always: () => true,
  'nose-up': ({ throw: t }) => t.noseDeg > 2,
  hyzer: ({ throw: t }) => t.hyzerDeg > 6,
  headwind: ({ air }) => air.windAlongMps < -1.5,
} as const satisfies Record<string, (thrown: DrillThrow) => boolean>
export type Factor = keyof typeof FACTORS
export const FACTOR_NAMES = Object.keys(FACTORS) as Factor[]

/** What was asked and said, as it is kept. */
export interface WatchedReply {
  readonly kind: DrillKind
  readonly truth: Truth
  readonly answer: DrillReply
  /** What the throw was like. */
  readonly like: readonly Factor[]
}
/** What the throw of a question is like. */
export function likeOf({ flights, recorded }: Pick<DrillQuestion, 'flights' | 'recorded'>): Factor[] {
  const thrown = recorded?.thrown ?? flights[0]
  return FACTOR_NAMES.filter((f) => thrown !== undefined && FACTORS[f](thrown))
}

/** What an eye does to a measure: how it is biased by each factor on top of what it always is, and how far it is off each time. */
export interface Eye {
  readonly measure: EyeMeasure
  readonly answers: number
  readonly biases: readonly Bias[]
  /** Of one answer, once biases are taken off. */
  readonly offSd: number
}
export interface Bias {
  readonly factor: Factor
  /** Answers of throws that are like that. */
  readonly answers: number
  readonly by: Estimate
  /** Surer than chance would have any of all that are looked at in an unbiased eye. */
  readonly isSure: boolean
}

/**
 * A bias so many standard deviations from nothing is called one: of everything that is looked at, some is that far by chance in
 * about one unbiased eye of fifty (two-sided, over {@link MEASURES} times {@link FACTORS}).
 */
const SURE = 3.3
/** Fewer answers of a measure, or of throws that are like that, say nothing. */
const LEAST = 6
/** What is believed of how far an eye is off weighs like so many answers. */
const BELIEVED = 4

/** By how much an answer is off, by measure: positive where more was said than is. */
export function errorsOf({ kind, truth, answer }: WatchedReply): Partial<Record<EyeMeasure, number>> {
  if (truth.kind === 'range' && answer.kind === 'range') {
    const off = (answer.low + answer.high) / 2 - truth.value
    return kind === 'angle' || kind === 'turn' || kind === 'fade' ? { [kind]: off } : {}
  }
  if (truth.kind === 'circle' && answer.kind === 'circle')
    return { along: answer.at.downM - truth.at.downM, aside: answer.at.sideM - truth.at.sideM }
  return {}
}

/** Everything that answers say of the eye that gave them. */
export function eyeOf(all: readonly WatchedReply[]): Eye[] {
  return (Object.keys(MEASURES) as EyeMeasure[]).flatMap((measure) => {
    const rows = all.flatMap((a) => {
      const off = errorsOf(a)[measure]
      return off === undefined ? [] : [{ off, like: FACTOR_NAMES.map((f) => (a.like.includes(f) ? 1 : 0)) }]
    })
    return rows.length < LEAST ? [] : [eyeFor(measure, rows)]
  })
}

/** How far off an eye sees a measure, whatever the reason: its biases are in it. */
export interface Reliability {
  readonly answers: number
  /** Root mean square of errors, drawn to that of a usual eye where answers are few. */
  readonly sd: number
}
/** Fewer answers do not take the place of what is usual. */
export const ENOUGH_ANSWERS = 20

/** @returns undefined of fewer answers than {@link ENOUGH_ANSWERS} */
export function reliabilityOf(all: readonly WatchedReply[], measure: EyeMeasure): Reliability | undefined {
  const off = all.flatMap((a) => errorsOf(a)[measure] ?? [])
  if (off.length < ENOUGH_ANSWERS) return undefined
  const { offSd, biasSd } = MEASURES[measure]
  const squares = BELIEVED * (offSd ** 2 + biasSd ** 2) + off.reduce((sum, e) => sum + e * e, 0)
  return { answers: off.length, sd: Math.sqrt(squares / (BELIEVED + off.length)) }
}

interface Row {
  readonly off: number
  readonly like: readonly number[]
}

/**
 * A linear regression of errors on factors: biases believed normal about nothing, the scatter pooled with what is believed of it and
 * found by going round a few times.
 */
function eyeFor(measure: EyeMeasure, rows: readonly Row[]): Eye {
  const { offSd, biasSd } = MEASURES[measure]
  const p = FACTOR_NAMES.length
  let variance = offSd ** 2
  let means = new Float64Array(p)
  let covariance = new Float64Array(p * p)
  for (let round = 0; round < 6; round++) {
    const a = new Float64Array(p * p)
    const b = new Float64Array(p)
    for (let i = 0; i < p; i++) a[i * p + i] = 1 / biasSd ** 2
    for (const { off, like } of rows)
      for (let i = 0; i < p; i++) {
        b[i]! += (like[i]! * off) / variance
        for (let j = 0; j < p; j++) a[i * p + j]! += (like[i]! * like[j]!) / variance
      }
    factorise(a, p)
    solve(a, p, b)
    means = b
    covariance = Float64Array.from(inverse(a, p))
    const left = rows.reduce(
      (sum, { off, like }) => sum + (off - like.reduce((s, x, i) => s + x * means[i]!, 0)) ** 2,
      0,
    )
    const told = rows.reduce(
      (sum, { like }) =>
        sum +
        like.reduce((s, x, i) => s + x * like.reduce((t, y, j) => t + y * covariance[i * p + j]!, 0), 0),
      0,
    )
    variance = (BELIEVED * offSd ** 2 + left + told) / (BELIEVED + rows.length)
  }
  const biases = FACTOR_NAMES.map((factor, i): Bias => {
    const answers = rows.reduce((n, { like }) => n + like[i]!, 0)
    const by = { value: means[i]!, sd: Math.sqrt(covariance[i * p + i]!) }
    return { factor, answers, by, isSure: answers >= LEAST && Math.abs(by.value) > SURE * by.sd }
  })
  return { measure, answers: rows.length, biases, offSd: Math.sqrt(variance) }
}
