import type { RatedDisc } from './evidence.ts'
import { DISC_PRIOR_SD } from './evidence.ts'

/** What discs share, from the widest to the narrowest, and what is one disc's own. */
export const KIN_LEVELS = ['mold', 'blend', 'plastic', 'run', 'wear'] as const
export type KinLevel = (typeof KIN_LEVELS)[number]
export type SpreadLevel = Exclude<KinLevel, 'wear'> | 'disc'

/**
 * How the variance of discs about their published numbers is believed to divide before any throw: a mold flies
 * unlike its label as a whole, a plastic within its mold, a blend across molds (weakly), a run within its plastic,
 * and the rest is the one disc's own. They add up to 1.
 */
export const SHARE: Readonly<Record<SpreadLevel, number>> = {
  mold: 0.3,
  blend: 0.06,
  plastic: 0.2,
  run: 0.09,
  disc: 0.35,
}
/** How many groups (or discs) the belief in those shares is worth. */
export const SHARE_WORTH: Readonly<Record<SpreadLevel, number>> = {
  mold: 5,
  blend: 5,
  plastic: 6,
  run: 6,
  disc: 12,
}

/** What wear from new to beaten does to glide, turn and fade: a weak belief that it takes stability away. */
export const WEAR_PRIOR = { mean: [0, -0.4, -0.3], sd: [0.25, 0.5, 0.45] } as const

/** One effect shared by discs: 3 columns of the border, for glide, turn and fade. */
export interface Effect {
  readonly level: KinLevel
  /** What is shared; for a plastic and a run, the mold and plastic stand before it. */
  readonly names: readonly string[]
  /** Discs that share it, by place. */
  readonly discs: readonly number[]
}

/** Who shares what: worked out once for a fit. */
export interface Kinship {
  readonly effects: readonly Effect[]
  /** Per disc: places of its effects, and how much of each it has (1, or its wear from 0 to 1). */
  readonly of: readonly (readonly { readonly effect: number; readonly weight: number }[])[]
  /** Per disc: share of the variance that is not in an effect. 1 for a disc without kin; unused for a control disc. */
  readonly ownShare: readonly number[]
}

/** Names an effect: of two fits, effects with the same key are the same. */
export const effectKey = (level: KinLevel, names: readonly string[]): string => [level, ...names].join('\n')

/**
 * Finds the effects discs share. A group of one disc gets none of its own, since nothing can tell it from the disc
 * itself; its share of the variance stays with the disc. A plastic alone in its run of the shelf still gets one
 * where its mold has others, so that plastics can be compared.
 */
export function kinshipOf(discs: readonly RatedDisc[]): Kinship {
  const groups = new Map<string, { level: KinLevel; names: string[]; discs: number[] }>()
  const namesAt = (d: RatedDisc): Partial<Record<Exclude<KinLevel, 'wear'>, string[]>> => {
    const { kin } = d
    if (!kin || d.control) return {}
    const { mold, plastic, run } = kin
    return {
      mold: [mold],
      ...(plastic !== undefined && { blend: [plastic], plastic: [mold, plastic] }),
      ...(plastic !== undefined && run !== undefined && { run: [mold, plastic, run] }),
    }
  }
  discs.forEach((d, i) => {
    for (const [level, names] of Object.entries(namesAt(d)) as [KinLevel, string[]][]) {
      const key = effectKey(level, names)
      const group = groups.get(key)
      if (group) group.discs.push(i)
      else groups.set(key, { level, names, discs: [i] })
    }
  })
  const moldsOf = (blend: string) =>
    new Set(
      [...groups.values()]
        .filter((g) => g.level === 'plastic' && g.names[1] === blend)
        .map((g) => g.names[0]),
    )
  const plasticsOf = (mold: string) =>
    [...groups.values()].filter((g) => g.level === 'plastic' && g.names[0] === mold).length
  const told = [...groups.values()].filter((g) => {
    if (g.level === 'blend') return moldsOf(g.names[0]!).size > 1
    if (g.level === 'plastic') return g.discs.length > 1 || plasticsOf(g.names[0]!) > 1
    return g.discs.length > 1
  })
  const worn = discs.flatMap((d, i) => (!d.control && (d.kin?.wear ?? 0) > 0 ? [i] : []))
  const effects: Effect[] = [
    ...told,
    ...(worn.length > 0 ? [{ level: 'wear' as const, names: [], discs: worn }] : []),
  ]
  const place = new Map(effects.map((e, i) => [effectKey(e.level, e.names), i]))
  const of = discs.map((d, i) => [
    ...(Object.entries(namesAt(d)) as [KinLevel, string[]][]).flatMap(([level, names]) => {
      const effect = place.get(effectKey(level, names))
      return effect === undefined ? [] : [{ effect, weight: 1 }]
    }),
    ...(worn.includes(i) ? [{ effect: effects.length - 1, weight: d.kin!.wear! }] : []),
  ])
  return {
    effects,
    of,
    ownShare: of.map(
      (list) =>
        1 -
        list.reduce((s, { effect }) => {
          const { level } = effects[effect]!
          return level === 'wear' ? s : s + SHARE[level]
        }, 0),
    ),
  }
}

/** Prior mean and variance of an effect's glide, turn and fade. */
export function effectPrior(
  level: KinLevel,
  spread: Readonly<Record<SpreadLevel, number>>,
): { readonly mean: readonly number[]; readonly variance: readonly number[] } {
  if (level === 'wear') return { mean: WEAR_PRIOR.mean, variance: WEAR_PRIOR.sd.map((s) => s * s) }
  return {
    mean: [0, 0, 0],
    variance: DISC_PRIOR_SD.map((sd) => spread[level] * SHARE[level] * sd * sd),
  }
}
