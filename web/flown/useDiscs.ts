import { useCallback, useMemo } from 'react'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import type { LabDisc, LabThrow, Setup } from '../../core/lab/setup.ts'
import type { ArmKnown } from '../../core/lab/who.ts'
import { LABEL_COVARIANCE } from '../../core/rotation/carried.ts'
import { airOf } from '../../contract/lab.ts'
import type { LabFlown, KnownArm, LabSetup, OneThrow, LabThrown } from '../../contract/lab.ts'
import { isAtHand, flyingNumbersOf } from '../../contract/rotation.ts'
import type { RotationDisc } from '../../contract/rotation.ts'
import { bodyOf } from '../../contract/sheet.ts'
import { useArms, useShelf } from '../data/hooks.ts'
import { useBoard } from '../workers/board.ts'
import { numbersLine } from '../data/units.ts'

export interface NamedDisc {
  /** The same for the same disc. */
  readonly key: string
  readonly name: string
  /** On a picture, where there is little room. */
  readonly brief: string
  readonly disc: LabDisc
}

/** The discs of the shelf that can be flown, and whichever are named. */
export function useDiscs() {
  const { board, error } = useBoard()
  const { view } = useShelf()
  const bodies = useMemo(() => new Map(view?.discs.map(({ disc }) => [disc.id, bodyOf(disc)])), [view])
  const shelf = useMemo(() => board?.discs.filter(isAtHand) ?? [], [board])
  const known = useMemo(() => new Map(board?.discs.map((d) => [d.id, d])), [board])
  const ofShelf = useCallback(
    (d: RotationDisc): NamedDisc => ({
      key: d.id,
      name: `${d.code} ${d.mold} ${d.plastic}`,
      brief: d.code,
      disc: {
        numbers: flyingNumbersOf(d),
        covariance: d.rated?.covariance ?? LABEL_COVARIANCE,
        body: bodies.get(d.id) ?? STANDARD_BODY,
      },
    }),
    [bodies],
  )
  const named = useCallback(
    (flown: LabFlown): NamedDisc | undefined => {
      if ('numbers' in flown) {
        const name = numbersLine(flown.numbers)
        return {
          key: name,
          name,
          brief: name,
          disc: { numbers: flown.numbers, covariance: null, body: STANDARD_BODY },
        }
      }
      const disc = known.get(flown.id)
      return disc && ofShelf(disc)
    },
    [known, ofShelf],
  )
  const reading = board === undefined && error === undefined
  return useMemo(() => ({ shelf, named, ofShelf, reading, error }), [shelf, named, ofShelf, reading, error])
}
export type Discs = ReturnType<typeof useDiscs>

/** A throw as it is flown; undefined while its disc is not known. @param who throws it, besides as it is meant */
export function flownAs(
  { disc, throw: thrown, weather }: OneThrow,
  named: Discs['named'],
  who?: ArmKnown,
): Setup | undefined {
  const found = named(disc)
  return found && { disc: found.disc, throw: thrownHere(thrown, who), air: airOf(weather) }
}

/** A throw that is meant, by whoever throws it. */
export const thrownHere = (thrown: LabThrown, who: ArmKnown | undefined): LabThrow => ({
  ...thrown,
  ...(who && { who }),
})
/** What is meant of a throw, whoever throws it. */
export const meantOf = ({ who: _, ...thrown }: LabThrow): LabThrown => thrown

/** Whoever throws a setup, as far as all their throws show; nobody where nobody is set or nothing is known. */
export function useWho({ by: set }: Pick<LabSetup, 'by'>): KnownArm | undefined {
  const arms = useArms()
  return set ? arms?.find((a) => a.thrower === set.thrower && a.stroke === set.stroke) : undefined
}
