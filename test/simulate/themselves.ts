// Trials of plastics and runs in worlds where these differ and where only discs do: how often something is said of the plastics (or
// runs) themselves, and of the next disc of them, and how often it is false.
import { group } from 'd3'
import { sideOf } from '../../core/flight/side.ts'
import { themselves } from '../../core/judge/answers/themselves.ts'
import { SETTLED } from '../../core/judge/statements.ts'
import { fit } from '../../core/rating/fit.ts'
import { SHARE } from '../../core/rating/kin.ts'
import type { SpreadLevel } from '../../core/rating/kin.ts'
import { seedOf, simulateSession } from './session.ts'
import type { SimulatedSession } from './session.ts'

const NAMES = ['soft', 'firm', 'hard']
const NOTHING = { mold: 0, blend: 0, plastic: 0, run: 0, disc: 0 }
const ALL_OWN = { ...NOTHING, disc: 1 }

export interface World {
  readonly name: string
  readonly of: 'plastic' | 'run'
  readonly groups: number
  readonly copies: number
  readonly shares: Readonly<Record<SpreadLevel, number>>
}
export const WORLDS: readonly World[] = [
  { name: 'plastics, one disc each', of: 'plastic', groups: 2, copies: 1, shares: SHARE },
  { name: 'plastics, three discs each', of: 'plastic', groups: 2, copies: 3, shares: SHARE },
  { name: 'three plastics, two discs each', of: 'plastic', groups: 3, copies: 2, shares: SHARE },
  { name: 'runs, three discs each', of: 'run', groups: 2, copies: 3, shares: SHARE },
  {
    name: 'plastics that change nothing, one disc each',
    of: 'plastic',
    groups: 2,
    copies: 1,
    shares: ALL_OWN,
  },
  {
    name: 'plastics that change nothing, three discs each',
    of: 'plastic',
    groups: 2,
    copies: 3,
    shares: ALL_OWN,
  },
  { name: 'runs that change nothing, three discs each', of: 'run', groups: 2, copies: 3, shares: ALL_OWN },
]

/** Something said at {@link SETTLED} or more, of so many pairs; how often it was false, and how often that was due. */
export interface Said {
  said: number
  wrong: number
  due: number
}
export interface ToldOfWorld {
  readonly world: World
  readonly pairs: number
  readonly themselves: Said
  readonly next: Said
}

/** How stable discs of some kin are on the whole, beyond which each is its own. */
function sideOfKin({ evidence, shared }: SimulatedSession, keys: readonly string[]): number {
  const { published } = evidence.discs[0]!
  const off = [0, 1, 2].map((k) => keys.reduce((s, key) => s + (shared.get(key)?.[k] ?? 0), 0))
  return sideOf({
    ...published,
    glide: published.glide + off[0]!,
    turn: published.turn + off[1]!,
    fade: published.fade + off[2]!,
  }).side
}

/** Tells plastics or runs of made-up trials apart, twelve throws a disc. */
export function toldOfWorld(world: World, trials: number, from: number): ToldOfWorld {
  const none = (): Said => ({ said: 0, wrong: 0, due: 0 })
  const told = { world, pairs: 0, themselves: none(), next: none() }
  const isRun = world.of === 'run'
  const kin = NAMES.slice(0, world.groups).flatMap((name) =>
    Array.from({ length: world.copies }, (_, c) =>
      isRun ? { mold: 'Ash', plastic: 'soft', run: name } : { mold: 'Ash', plastic: name, run: `${c}` },
    ),
  )
  for (let k = from; k < from + trials; k++) {
    const session = simulateSession({
      ...{ kin, shares: world.shares, throws: 12 * kin.length, called: true, gusts: 0.6, seed: seedOf(k) },
    })
    const kinOf = (d: (typeof session.evidence.discs)[0]) => (isRun ? d.kin!.run! : d.kin!.plastic!)
    const groups = [...group(session.evidence.discs, kinOf)]
    const sure = themselves(
      fit(session.evidence),
      groups.map(([, discs]) => discs.map((d) => d.id)),
      isRun ? ['run'] : ['plastic', 'blend'],
    )
    const truth = groups.map(([name]) =>
      sideOfKin(
        session,
        isRun
          ? ['mold Ash', 'plastic Ash soft', `run Ash soft ${name}`]
          : ['mold Ash', `blend ${name}`, `plastic Ash ${name}`],
      ),
    )
    groups.forEach((_, a) => {
      for (let b = a + 1; b < groups.length; b++) {
        told.pairs++
        const { probability, next } = sure(a, b)
        note(told.themselves, probability, truth[a]! > truth[b]!)
        // what a next disc is has not been drawn: it is right as often as the plastic lets it be
        if (Math.max(next, 1 - next) >= SETTLED) told.next.said++
      }
    })
  }
  return told
}

function note(said: Said, p: number, is: boolean): void {
  const sure = Math.max(p, 1 - p)
  if (sure < SETTLED) return
  said.said++
  said.due += 1 - sure
  if (is !== p > 0.5) said.wrong++
}

export function worldsTable(list: readonly ToldOfWorld[]): string {
  return [
    '| world | pairs | said of the plastic or run itself | of these false | due | said of the next disc |',
    '| --- | --- | --- | --- | --- | --- |',
    ...list.map(
      ({ world, pairs, themselves: t, next }) =>
        `| ${world.name} | ${pairs} | ${t.said} | ${t.wrong} | ${t.due.toFixed(1)} | ${next.said} |`,
    ),
  ].join('\n')
}
