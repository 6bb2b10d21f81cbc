import type { Lane } from '../../../core/rotation/board.ts'
import { laneRead } from '../../../contract/rotation.ts'
import type { Board, JobRow, LaneDisc } from '../../../contract/rotation.ts'
import { fadeSign } from '../../../core/flight/hand.ts'
import type { Hand } from '../../../core/flight/hand.ts'
import { sideWord } from '../../../core/judge/statements.ts'
import { angleWords, powerWords } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'

/** A lane of the board as the core speaks of it. */
export const laneOf = (board: Board, jobId: string): Lane =>
  laneRead(board.lanes.find((l) => l.jobId === jobId) ?? { jobId, discs: [] })

/** A disc by its code, mold and plastic. */
export function nameOf(board: Board, discId: string): string {
  const disc = board.discs.find((d) => d.id === discId)
  return disc ? `${disc.code}, ${disc.mold} ${disc.plastic}` : 'a disc'
}

/** Whether a disc was in a job once and is past it. */
export const hasLeft = ({ along }: Pick<LaneDisc, 'along'>): boolean => along !== null && along.now > 1

/** What a job wants, in words. */
export function wantedWords({ throwing, wanted, within }: JobRow, units: Units, hand?: Hand): string {
  const { length, speed } = units
  const m = (v: number) => length.to(v).toFixed(0)
  const fadeSide = hand && (fadeSign(hand, 'backhand') > 0 ? 'right' : 'left')
  const off = (v: number) =>
    Math.abs(v) < 0.25
      ? 'on the line'
      : `${length.to(Math.abs(v)).toFixed(1)} ${length.unit} ${fadeSide ? '' : 'to the '}${sideWord(fadeSide, v > 0)}${fadeSide ? '' : ' side'}`
  const wind = throwing.windAlongMps
  return [
    `Thrown ${angleWords(throwing.hyzerDeg)} at ${powerWords(throwing.power)}`,
    wind === 0 ? '' : ` ${wind < 0 ? 'into' : 'with'} ${speed.show(Math.abs(wind), 0)} of wind`,
    `: ${off(wanted.at60M)} at 60 % (± ${m(within.at60M)})`,
    `, finishes ${off(wanted.finishM)} (± ${m(within.finishM)})`,
    within.carryM === null ? '' : ` at ${m(wanted.carryM)} ${length.unit} (± ${m(within.carryM)})`,
  ].join('')
}

/** What the address of the bag says of a disc that may be lost. */
export const WITHOUT = 'without'
/** The address of the bag as it would be without a disc. */
export const bagWithout = (bagAddress: string, code: string) =>
  `${bagAddress}?${new URLSearchParams({ [WITHOUT]: code })}`
