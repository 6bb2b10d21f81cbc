import type { Angles } from '../../core/lab/angles.ts'
import { chanceOf } from '../../core/lab/cloud.ts'
import type { Chance, Cloud } from '../../core/lab/cloud.ts'
import type { Obstacle } from '../../core/lab/field.ts'
import { bestOf } from '../../core/lab/find.ts'
import type { ThrowsFound, Search } from '../../core/lab/find.ts'
import type { Setup } from '../../core/lab/setup.ts'
import type { LabWorker } from './lab.worker.ts'
import { OneWorker } from './oneWorker.ts'

/** Work is shared by so many. */
const SHARED = 2
/** Fewer discs than that are looked at by one. */
const FEW_DISCS = 8

const started = (what: string) =>
  Array.from(
    { length: SHARED },
    () =>
      new OneWorker<LabWorker, null>(
        () => new Worker(new URL('./lab.worker.ts', import.meta.url), { type: 'module' }),
        what,
        () => null,
      ),
  )
const clouds = started('The cloud')
// what takes longer does not keep the cloud from following the hand
const searches = started('The search')

/** Many throws of a setup, and how likely one does what is wanted. */
export interface FlownCloud extends Omit<Cloud, 'by'> {
  readonly chance: Chance
}

/** Parts of a cloud as one. */
function together(parts: readonly Cloud[]): Cloud {
  const length = parts.reduce((sum, p) => sum + p.fate.length, 0)
  const all = {
    down: new Float32Array(length),
    side: new Float32Array(length),
    fate: new Uint8Array(length),
    by: new Int8Array(length),
  }
  let at = 0
  for (const part of parts) {
    all.down.set(part.down, at)
    all.side.set(part.side, at)
    all.fate.set(part.fate, at)
    all.by.set(part.by, at)
    at += part.fate.length
  }
  return all
}

/** Many throws of a setup, as they scatter. */
export async function askCloud(setup: Setup, obstacles: readonly Obstacle[]): Promise<FlownCloud> {
  const parts = await Promise.all(
    clouds.map((c, place) => c.ask((worker) => worker.cloud(setup, obstacles, { place, of: clouds.length }))),
  )
  const cloud = together(parts)
  return { ...cloud, chance: chanceOf(cloud, obstacles) }
}

/** The clouds of several setups, one after the other, so that one that follows the hand comes between. */
export async function askClouds(
  setups: readonly Setup[],
  obstacles: readonly Obstacle[],
): Promise<FlownCloud[]> {
  const all: FlownCloud[] = []
  for (const setup of setups) all.push(await askCloud(setup, obstacles))
  return all
}

/** Which angles make a disc stand up, finish on the line, and flex back. */
export const askAngles = (setup: Setup): Promise<Angles> => searches[0]!.ask((worker) => worker.angles(setup))

/** The throws that most likely do what is wanted. */
export async function askThrows(search: Search): Promise<ThrowsFound> {
  const { discs } = search
  const shared = discs.length < FEW_DISCS ? searches.slice(0, 1) : searches
  const found = await Promise.all(
    shared.map((s, place) =>
      s.ask((worker) =>
        worker.find({ ...search, discs: discs.filter((_, i) => i % shared.length === place) }),
      ),
    ),
  )
  return bestOf(found)
}
