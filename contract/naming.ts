import type { ShelvedDisc } from './sheet.ts'

/**
 * How the discs of a trial are called, by code: as short as tells them apart. A mold alone in the trial is called
 * by its own name; several discs of one mold by their plastic, then wear, then code.
 */
export function trialNames(discs: readonly ShelvedDisc[]): ReadonlyMap<string, string> {
  const alone = (d: ShelvedDisc) => discs.filter((o) => o.mold.id === d.mold.id).length === 1
  const tries: ((d: ShelvedDisc) => string)[] = [
    (d) => (alone(d) ? d.mold.name : d.plastic.name),
    (d) => (alone(d) ? d.mold.name : `${d.plastic.name}, ${d.disc.wear}`),
    (d) => `${d.mold.name} ${d.plastic.name}, ${d.disc.wear}`,
  ]
  return new Map(
    discs.map((d) => {
      const own = tries.find((name) => discs.filter((o) => name(o) === name(d)).length === 1)
      return [d.disc.code, own ? own(d) : `${d.plastic.name} ${d.disc.code}`]
    }),
  )
}

/** A disc by its code and what it is called in its trial: “HS-017 Loam”; a name that holds the code already says both. */
export const withCode = (code: string, name: string): string =>
  name.includes(code) ? name : `${code} ${name}`

/** What a maker, a plastic or a place is called that a file did not name. */
export const NOT_STATED = 'not stated'

/** Where a disc comes from: “Tarnwick, Slate · first run, 2024”; what nobody stated is left away. */
export const lineage = (d: ShelvedDisc): string =>
  [[d.mold.name, d.plastic.name].filter((n) => n !== NOT_STATED).join(', '), d.run?.name]
    .filter(Boolean)
    .join(' · ')

/** What numbers in force are called. */
export const LEVEL_WORDS = {
  stamped: 'stamped on it',
  run: 'given for its run',
  plastic: 'given for its plastic',
  mold: 'given for the mold',
} as const
