import type { ShelvedDisc } from '../../contract/sheet.ts'

/** How the discs of a trial are called, by code: as short as tells them apart. */
export function trialNames(discs: readonly ShelvedDisc[]): ReadonlyMap<string, string> {
  const oneMold = new Set(discs.map((d) => d.mold.id)).size === 1
  const tries: ((d: ShelvedDisc) => string)[] = [
    (d) => (oneMold ? d.plastic.name : d.mold.name),
    (d) => `${d.mold.name} ${d.plastic.name}`,
    (d) => `${d.mold.name} ${d.plastic.name}, ${d.disc.wear}`,
    (d) => `${d.mold.name} ${d.plastic.name} ${d.disc.code}`,
  ]
  return new Map(
    discs.map((d) => {
      const own =
        tries.find((name) => discs.filter((o) => name(o) === name(d)).length === 1) ?? ((x) => x.disc.code)
      return [d.disc.code, own(d)]
    }),
  )
}

/** Where a disc comes from: “Tarnwick, Slate · first run, 2024”. */
export const lineage = (d: ShelvedDisc): string =>
  [`${d.mold.name}, ${d.plastic.name}`, d.run?.name].filter(Boolean).join(' · ')

/** What numbers in force are called. */
export const LEVEL_WORDS = {
  stamped: 'stamped on it',
  run: 'given for its run',
  plastic: 'given for its plastic',
  mold: 'given for the mold',
} as const
