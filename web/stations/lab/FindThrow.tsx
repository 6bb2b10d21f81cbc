import { greatestIndex } from 'd3'
import { useState } from 'react'
import type { ThrowsFound, FoundThrow } from '../../../core/lab/find.ts'
import type { ArmKnown } from '../../../core/lab/who.ts'
import { airOf } from '../../../contract/lab.ts'
import type { LabObstacle, LabSetup } from '../../../contract/lab.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, percent, powerWords } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { askThrows } from '../../workers/lab.ts'
import { thrownHere, meantOf } from '../../flown/useDiscs.ts'
import type { Discs, NamedDisc } from '../../flown/useDiscs.ts'
import { obstacleWords } from '../../flown/words.ts'
import { aimWords } from './words.ts'

interface FindThrowProps {
  readonly setup: LabSetup
  readonly discs: Discs
  readonly flown: readonly NamedDisc[]
  readonly search: Search
}

type Search = ReturnType<typeof useSearch>
interface FoundOf extends ThrowsFound {
  /** Of which setup. */
  readonly key: string
  readonly over: number
}

/** Whatever a search depends on. */
const keyOf = ({ throw: t, weather, obstacles, by }: LabSetup, over: string) =>
  JSON.stringify([{ ...t, power: 0, hyzerDeg: 0, aimDeg: 0 }, weather, obstacles, by, over])

/** A search for the throw, and what it found last. */
export function useSearch(setup: LabSetup, discs: Discs, flown: readonly NamedDisc[], who?: ArmKnown) {
  const [everywhere, setEverywhere] = useState(false)
  const [found, setFound] = useState<FoundOf>()
  const [working, setWorking] = useState(false)
  const [error, setError] = useState<Error>()
  const key = keyOf(setup, everywhere ? 'shelf' : flown.map((f) => f.key).join())
  const run = async () => {
    const over = everywhere ? discs.shelf.map(discs.ofShelf) : flown
    if (working || over.length === 0 || setup.obstacles.length === 0) return
    setWorking(true)
    setError(undefined)
    try {
      const told = await askThrows({
        discs: over.map(({ key: id, disc }) => ({ id, disc })),
        like: thrownHere(setup.throw, who),
        air: airOf(setup.weather),
        obstacles: setup.obstacles,
      })
      setFound({ ...told, key, over: over.length })
    } catch (e) {
      setError(e as Error)
    }
    setWorking(false)
  }
  return {
    everywhere,
    setEverywhere,
    found,
    isOld: found !== undefined && found.key !== key,
    working,
    error,
    run,
  }
}

/** What takes most of a throw: “Branches from 25 m to 51 m: 60 %”. */
function takenWords({ chance }: FoundThrow, obstacles: readonly LabObstacle[], units: Units): string {
  const most = greatestIndex(chance.taken) ?? -1
  const o = obstacles[most]
  if (!o) return `${percent(chance.both)} of the time`
  const how = o.kind === 'zone' ? 'is missed by' : 'takes'
  return `${percent(chance.both)} of the time; ${obstacleWords(o, units)} ${how} ${percent(chance.taken[most]!)}`
}

/** Looks for the angle, power, aim and disc that most likely do it, and takes one of them. */
export function FindThrow({
  setup,
  discs,
  flown,
  search,
  onTake,
}: FindThrowProps & { readonly onTake: (part: Partial<LabSetup>) => void }) {
  const { found } = search
  const units = useUnits()
  const take = ({ id, throw: t }: FoundThrow) => {
    const now = setup.discs
    const at = now.findIndex((_, i) => flown[i]?.key === id)
    // the one that is thrown stands first
    const first = at >= 0 ? now[at]! : { id }
    const rest = now.filter((_, i) => i !== at)
    onTake({ throw: meantOf(t), discs: [first, ...(at >= 0 ? rest : rest.slice(1))] })
  }
  const nameOf = (id: string) =>
    flown.find((f) => f.key === id)?.name ?? discs.named({ id })?.name ?? 'a disc'
  return (
    <Card className="p-3.5" label="Find the throw">
      <h2 className="text-lead">Find the throw</h2>
      {setup.obstacles.length === 0 ? (
        <p className="text-quiet">
          Put a landing zone, a gap or water on the field first; then the angle, power and disc are found that
          most likely get there.
        </p>
      ) : (
        <>
          <div className="mt-1.5 flex flex-wrap items-center gap-2">
            <Button kind="primary" keyHint="F" disabled={search.working} onClick={() => void search.run()}>
              {search.working ? 'Looking …' : 'Find the throw'}
            </Button>
            <Chip on={search.everywhere} onClick={() => search.setEverywhere(!search.everywhere)}>
              Any disc of the shelf
            </Chip>
          </div>
          {search.error && (
            <p role="alert" className="mt-2 text-accent">
              {search.error.message}
            </p>
          )}
          {found && (
            <div className="mt-2" role="status">
              {search.isOld && <p className="text-quiet">Something has changed since; look again.</p>}
              {found.throws.length === 0 ? (
                <>
                  <p>
                    No angle does it: nothing gets there once in ten
                    {found.over > 1 ? `, with none of ${found.over} discs` : ''}.
                  </p>
                  {found.nearest && !search.isOld && (
                    <p className="mt-1 text-quiet">
                      The nearest is {nameOf(found.nearest.id)}, {angleWords(found.nearest.throw.hyzerDeg)}:{' '}
                      {takenWords(found.nearest, setup.obstacles, units)}.{' '}
                      <button
                        type="button"
                        className="underline underline-offset-4"
                        onClick={() => take(found.nearest!)}
                      >
                        Look at it
                      </button>
                    </p>
                  )}
                </>
              ) : (
                <ol className="divide-y divide-rule">
                  {found.throws.map((f) => (
                    <li key={f.id} className="flex items-center justify-between gap-2 py-2">
                      <span>
                        <b className="font-semibold">{percent(f.chance.both)}</b>, {nameOf(f.id)}
                        <span className="block text-note text-quiet">
                          {angleWords(f.throw.hyzerDeg)}, {powerWords(Math.round(100 * f.throw.power) / 100)},
                          aimed {aimWords(f.throw.aimDeg, setup.fade)}
                        </span>
                      </span>
                      <Button onClick={() => take(f)} aria-label={`Take this throw of ${nameOf(f.id)}`}>
                        Take it
                      </Button>
                    </li>
                  ))}
                </ol>
              )}
            </div>
          )}
        </>
      )}
    </Card>
  )
}
