import { Z90 } from '../rating/normal.ts'
import { percent } from '../judge/statements.ts'
import type { ClaimKind, Sureness } from './sureness.ts'
import type { Bias, Eye, Factor, EyeMeasure } from './watcher.ts'
import { MEASURES } from './watcher.ts'

const WHEN: Record<Factor, string> = {
  always: '',
  'nose-up': ' when the nose is up',
  hyzer: ' of throws released on hyzer',
  headwind: ' into the wind',
}

/** How sizes are written: metres in the unit of whoever reads. */
export interface Sizes {
  readonly metres: (m: number) => string
}

function sized(measure: EyeMeasure, { metres }: Sizes, v: number): string {
  const { unit } = MEASURES[measure]
  return unit === 'm' ? metres(Math.abs(v)) : `${Math.abs(v).toFixed(1)}${unit}`
}

/** What is seen wrongly, by which sign. */
function wrongly(measure: EyeMeasure, size: string, isMore: boolean): string {
  switch (measure) {
    case 'angle':
      return `You see ${size} too ${isMore ? 'much' : 'little'} hyzer`
    case 'turn':
      return `You call ${size} too ${isMore ? 'little' : 'much'} turn`
    case 'fade':
      return `You call ${size} too ${isMore ? 'much' : 'little'} fade`
    case 'along':
      return `You expect landings ${size} too ${isMore ? 'far out' : 'short'}`
    case 'aside':
      return `You expect landings ${size} too far to the ${isMore ? 'fade' : 'turn'} side`
  }
}

/** A bias in one sentence with its 90 % interval: “You see 3.1° too little hyzer of throws released on hyzer (1.9° to 4.3°).” */
export function biasWords(measure: EyeMeasure, { factor, by }: Bias, sizes: Sizes): string {
  const size = (v: number) => sized(measure, sizes, v)
  const [near, far] = [Math.abs(by.value) - Z90 * by.sd, Math.abs(by.value) + Z90 * by.sd]
  return `${wrongly(measure, size(by.value), by.value > 0)}${WHEN[factor]} (${size(Math.max(0, near))} to ${size(far)}).`
}

const CLAIMED: Record<ClaimKind, string> = {
  ranges: 'ranges and circles',
  options: 'choices',
}
/** Whether somebody is as sure as they may be: “You are too sure: of your ranges and circles 58 % held (45 % to 70 %), not 80 %.” */
export function surenessWords({ of, answers, claimed, held, isSure }: Sureness): string {
  const share = `${percent(held.value)} held (${percent(held.low)} to ${percent(held.high)}, ${answers} answers)`
  if (!isSure) return `Of your ${CLAIMED[of]} ${share}; you said ${percent(claimed)}.`
  return held.value < claimed
    ? `You are too sure: of your ${CLAIMED[of]} ${share}, not the ${percent(claimed)} you said.`
    : `You may be surer: of your ${CLAIMED[of]} ${share}, more than the ${percent(claimed)} you said.`
}

const CALLS: Record<EyeMeasure, string> = {
  angle: 'angle',
  turn: 'turn',
  fade: 'fade',
  along: 'distance',
  aside: 'side',
}

/** How far an eye is off each time, in one sentence. */
export const reliabilityWords = ({ measure, offSd, answers }: Eye, sizes: Sizes): string =>
  `Calls of ${CALLS[measure]} are off by ${sized(measure, sizes, offSd)}, two in three (${answers} answers).`
