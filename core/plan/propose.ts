import type { QuestionKind } from './questions.ts'

/** A disc of the shelf, as far as a question cares. */
export interface ProposedDisc {
  readonly id: string
  readonly mold: string
  readonly plastic: string
  readonly run: string | null
  readonly discClass: string
  /** Step of its wear, 0 new. */
  readonly wear: number
  readonly grams: number | null
  readonly speed: number
  /** Turn + fade, from throws where there are any, else as published. */
  readonly stability: number
  /** Counted throws so far. */
  readonly throws: number
}

export interface Proposal {
  readonly discs: readonly string[]
  readonly control: string | null
  /** What the shelf lacks for this question. */
  readonly lacks: string | null
}

/** Molds compared at most, the one asked about included. */
const MOST_MOLDS = 4
const MOST = 6

const by =
  <T>(...keys: ((x: T) => number)[]) =>
  (a: T, b: T) =>
    keys.reduce((d, key) => d || key(a) - key(b), 0)

/** One disc of each value of a key, the first in the order given. */
function oneOfEach(list: readonly ProposedDisc[], key: (d: ProposedDisc) => string): ProposedDisc[] {
  const found = new Map<string, ProposedDisc>()
  for (const d of list) if (!found.has(key(d))) found.set(key(d), d)
  return [...found.values()]
}

/**
 * Which discs of a shelf answer a question about one of them, and a control disc: the one thrown most of those left, since
 * what is best known anchors best; slower ones first among equals, so that an arm can warm up on it.
 */
export function proposeDiscs(
  kind: QuestionKind,
  about: ProposedDisc,
  shelf: readonly ProposedDisc[],
): Proposal {
  const others = shelf.filter((d) => d.id !== about.id)
  const nearWear = (d: ProposedDisc) => Math.abs(d.wear - about.wear)
  const nearGrams = (d: ProposedDisc) => Math.abs((d.grams ?? 175) - (about.grams ?? 175))
  const near = by<ProposedDisc>(nearWear, nearGrams)
  const ofMold = others.filter((d) => d.mold === about.mold)
  const ofPlastic = ofMold.filter((d) => d.plastic === about.plastic)
  const pick = (): readonly [ProposedDisc[], string] => {
    switch (kind) {
      case 'plastics':
      case 'ground':
        return [
          oneOfEach([...ofMold].sort(near), (d) => d.plastic).filter((d) => d.plastic !== about.plastic),
          `another plastic of ${about.mold}`,
        ]
      case 'runs':
        return [
          oneOfEach([...ofPlastic].sort(near), (d) => d.run ?? '').filter((d) => d.run !== about.run),
          `another run of ${about.mold} in ${about.plastic}`,
        ]
      case 'wear':
        return [
          oneOfEach([...ofPlastic].sort(by(nearGrams)), (d) => String(d.wear)).filter(
            (d) => d.wear !== about.wear,
          ),
          `a ${about.mold} in ${about.plastic} of another wear`,
        ]
      case 'weight': {
        const weighed = ofPlastic.filter(
          (d) => d.grams !== null && Math.abs(d.grams - (about.grams ?? 175)) >= 2,
        )
        return [
          weighed.sort(by(nearWear, (d) => -nearGrams(d))).slice(0, 2),
          `a lighter or heavier ${about.mold} in ${about.plastic}`,
        ]
      }
      case 'molds':
        return [
          oneOfEach(
            others
              .filter((d) => d.discClass === about.discClass && d.mold !== about.mold)
              .sort(
                by(
                  (d) => Math.abs(d.speed - about.speed),
                  (d) => Math.abs(d.stability - about.stability),
                  nearWear,
                ),
              ),
            (d) => d.mold,
          ).slice(0, MOST_MOLDS - 1),
          `another mold among ${about.discClass}s`,
        ]
      case 'wind':
        return [
          others
            .filter((d) => d.discClass === about.discClass && d.stability > about.stability)
            .sort(by((d) => -d.stability))
            .slice(0, 1),
          `a ${about.discClass} that holds its line better`,
        ]
      case 'short game':
        return [
          oneOfEach(
            others.filter((d) => d.discClass === 'putter' || d.discClass === 'approach').sort(near),
            (d) => `${d.mold} ${d.plastic}`,
          ).slice(0, 3),
          'another putter or approach disc',
        ]
      case 'label':
      case 'arms':
        return [[], '']
    }
  }
  const [picked, wanted] = pick()
  const discs = [about, ...picked].slice(0, MOST)
  const chosen = new Set(discs.map((d) => d.id))
  const control = others
    .filter((d) => !chosen.has(d.id) && d.throws > 0)
    .sort(
      by(
        (d) => -d.throws,
        (d) => d.speed,
      ),
    )[0]
  return {
    discs: [...discs, ...(control ? [control] : [])].map((d) => d.id),
    control: control?.id ?? null,
    lacks: wanted !== '' && picked.length === 0 ? wanted : null,
  }
}
