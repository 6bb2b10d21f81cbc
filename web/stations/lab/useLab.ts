import { useCallback, useEffect, useMemo, useState } from 'react'
import { useLocation, useSearchParams } from 'react-router'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import type { LabDisc, Setup } from '../../../core/lab/setup.ts'
import { LABEL_COVARIANCE } from '../../../core/rotation/carried.ts'
import { airOf, FIRST_SETUP, linkOf, setupOf } from '../../../contract/lab.ts'
import type { Flown, LabSetup, OneThrow } from '../../../contract/lab.ts'
import { isAtHand, numbersOf } from '../../../contract/rotation.ts'
import type { RotationDisc } from '../../../contract/rotation.ts'
import { bodyOf } from '../../../contract/sheet.ts'
import { useShelf } from '../../data/hooks.ts'
import { useBoard } from '../../data/rotation.ts'
import { numbersLine } from '../../data/units.ts'

/** The address follows what is set once the hand rests, ms. */
const RESTS_MS = 400

export interface NamedDisc {
  /** The same for the same disc. */
  readonly key: string
  readonly name: string
  readonly disc: LabDisc
}

/** What is set, kept in the address. */
export function useSetup() {
  const [search, setSearch] = useSearchParams()
  const { pathname } = useLocation()
  const [opened] = useState(() => setupOf(search.toString()))
  const [setup, setSetup] = useState<LabSetup>(opened ?? FIRST_SETUP)
  useEffect(() => {
    if (setup === (opened ?? FIRST_SETUP)) return
    const rests = setTimeout(() => {
      // while the next screen is on its way this one still stands, but the address is the other's already
      if (window.location.pathname === pathname) setSearch(linkOf(setup), { replace: true })
    }, RESTS_MS)
    return () => clearTimeout(rests)
  }, [setup, opened, pathname, setSearch])
  const change = useCallback(
    (part: Partial<LabSetup> | ((now: LabSetup) => Partial<LabSetup>)) =>
      setSetup((now) => ({ ...now, ...(typeof part === 'function' ? part(now) : part) })),
    [],
  )
  return { setup, change, unreadable: opened === null }
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
      disc: {
        numbers: numbersOf(d),
        covariance: d.rated?.covariance ?? LABEL_COVARIANCE,
        body: bodies.get(d.id) ?? STANDARD_BODY,
      },
    }),
    [bodies],
  )
  const named = useCallback(
    (flown: Flown): NamedDisc | undefined => {
      if ('numbers' in flown) {
        const name = numbersLine(flown.numbers)
        return { key: name, name, disc: { numbers: flown.numbers, covariance: null, body: STANDARD_BODY } }
      }
      const disc = known.get(flown.id)
      return disc && ofShelf(disc)
    },
    [known, ofShelf],
  )
  return { shelf, named, ofShelf, reading: board === undefined && error === undefined, error }
}
export type Discs = ReturnType<typeof useDiscs>

/** A throw as it is flown; undefined while its disc is not known. */
export function flownAs(
  { disc, throw: thrown, weather }: OneThrow,
  named: Discs['named'],
): Setup | undefined {
  const found = named(disc)
  return found && { disc: found.disc, throw: thrown, air: airOf(weather) }
}
