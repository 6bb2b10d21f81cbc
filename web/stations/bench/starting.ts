import { DISC_CLASS_WORDS } from '../../../core/shelf/kinds.ts'
import { lineage } from '../../../contract/naming.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import type { Proposal } from '../../../contract/shelfPage.ts'
import { Trial } from '../../../contract/trials.ts'
import type { TrialSent } from '../../../contract/trials.ts'
import { questionOf } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'

/** What a question proposes discs about. */
export interface WantedDiscs {
  readonly kind: QuestionKind
  readonly about: string
}

/** A trial that is being started. */
export interface Starting {
  readonly id: string
  readonly kind: QuestionKind
  /** The one asked about first: those picked by hand, then those proposed. */
  readonly discIds: readonly string[]
  /** Which of them were picked by hand: nothing but a hand takes them away. */
  readonly picked: readonly string[]
  readonly controlDiscId: string | null
  readonly hyzerDegs: readonly number[]
  /** What somebody set by hand; everything else follows what is chosen. */
  readonly set: {
    readonly name?: string
    readonly question?: string
    readonly plannedThrows?: number | null
    readonly controlDiscId?: string | null
  }
  /** A proposal that is on its way. */
  readonly wants: WantedDiscs | null
  /** What the shelf lacks of what was proposed. */
  readonly lacks: string | null
  /** It was to be kept as it stood: from then on it says what is wrong with it. */
  readonly tried: boolean
}

export type StartingEvent =
  | { readonly did: 'asked'; readonly kind: QuestionKind }
  | { readonly did: 'proposed'; readonly of: WantedDiscs; readonly found: Proposal | null }
  | { readonly did: 'picked'; readonly disc: string }
  /** What was proposed is not wanted. */
  | { readonly did: 'left proposed' }
  | { readonly did: 'turned angle'; readonly hyzerDeg: number }
  | { readonly did: 'chose control'; readonly disc: string | null }
  | { readonly did: 'set'; readonly change: Starting['set'] }
  | { readonly did: 'tried' }

/** A trial nobody has said anything of yet, about some discs. @param from discs chosen before */
export function startingWith(id: string, from: readonly string[]): Starting {
  const several = from.length > 1
  const kind = several ? 'molds' : 'label'
  return {
    id,
    kind,
    discIds: from,
    picked: from,
    controlDiscId: null,
    hyzerDegs: questionOf(kind).hyzerDegs,
    set: {},
    wants: from.length === 1 ? { kind, about: from[0]! } : null,
    lacks: null,
    tried: false,
  }
}

const toggled = <T>(list: readonly T[], item: T): readonly T[] =>
  list.includes(item) ? list.filter((x) => x !== item) : [...list, item]

const without = (list: readonly string[], item: string) => list.filter((x) => x !== item)
/** Several were picked by hand: nothing is proposed over them. */
const isOwnChoice = ({ picked }: Starting) => picked.length > 1

/** With other discs; a control disc that is not among them any more is none. */
const withDiscs = (state: Starting, picked: readonly string[], proposed: readonly string[]): Starting => {
  const discIds = [...picked, ...proposed.filter((id) => !picked.includes(id))]
  const control = state.set.controlDiscId === undefined ? state.controlDiscId : state.set.controlDiscId
  return {
    ...state,
    discIds,
    picked,
    controlDiscId: control !== null && discIds.includes(control) ? control : null,
  }
}
const proposing = (state: Starting): Starting => {
  const [about] = state.discIds
  return { ...state, wants: about === undefined ? null : { kind: state.kind, about } }
}
/** After a disc was ticked or its tick taken away. */
function afterPick(state: Starting, disc: string): Starting {
  const proposed = addedFor(state)
  if (state.discIds.includes(disc))
    return { ...withDiscs(state, without(state.picked, disc), without(proposed, disc)), wants: null }
  const next = withDiscs(state, [...state.picked, disc], proposed)
  return state.discIds.length === 0 ? proposing(next) : { ...next, wants: null }
}

/** Which discs were ticked by what the question proposes, and by no hand. */
export const addedFor = ({ discIds, picked }: Starting): readonly string[] =>
  discIds.filter((id) => !picked.includes(id))

/** The trial after something was done to it. */
export function startingAfter(state: Starting, event: StartingEvent): Starting {
  switch (event.did) {
    case 'asked': {
      const next = { ...state, kind: event.kind, hyzerDegs: questionOf(event.kind).hyzerDegs, lacks: null }
      return isOwnChoice(state) ? { ...next, wants: null } : proposing(next)
    }
    case 'proposed': {
      const { of, found } = event
      // what was proposed for another question, or another disc, comes too late
      if (state.wants?.kind !== of.kind || state.wants.about !== of.about) return state
      if (!found) return { ...state, wants: null }
      return {
        ...withDiscs({ ...state, controlDiscId: found.control }, state.picked, found.discs),
        wants: null,
        lacks: found.lacks,
      }
    }
    case 'picked':
      return afterPick(state, event.disc)
    case 'left proposed':
      return { ...withDiscs(state, state.picked, []), wants: null }
    case 'turned angle':
      return { ...state, hyzerDegs: toggled(state.hyzerDegs, event.hyzerDeg) }
    case 'chose control':
      return {
        ...state,
        controlDiscId: event.disc,
        set: { ...state.set, controlDiscId: event.disc },
      }
    case 'set':
      return { ...state, set: { ...state.set, ...event.change } }
    case 'tried':
      return { ...state, tried: true }
  }
}

/** Throws that what is chosen comes to. */
export const plannedThrowsOf = ({ kind, discIds, hyzerDegs }: Starting): number =>
  discIds.length * hyzerDegs.length * questionOf(kind).throwsACell

/** The trial as it would be kept now. */
export function draftOf(state: Starting, discs: readonly ShelvedDisc[]): TrialSent {
  const { id, kind, discIds, controlDiscId, hyzerDegs, set } = state
  const about = discs.find((d) => d.disc.id === discIds[0])
  return {
    id,
    name: set.name ?? (about ? questionOf(kind).called(about.mold.name, about.plastic.name) : ''),
    question: set.question ?? questionOf(kind).words,
    discIds: [...discIds],
    controlDiscId,
    hyzerDegs: [...hyzerDegs],
    // nothing is no number of throws
    plannedThrows: set.plannedThrows === undefined ? plannedThrowsOf(state) : (set.plannedThrows as number),
    finishedAt: null,
    removedAt: null,
    version: 0,
  }
}

/** What is wrong with a draft, by field; undefined where it can be kept. */
export function wrongWith(draft: TrialSent): Partial<Record<string, string>> | undefined {
  const read = Trial.safeParse(draft)
  if (read.success) return undefined
  return Object.fromEntries(read.error.issues.toReversed().map((i) => [String(i.path[0]), i.message]))
}

/** Discs that some words find: by code, lineage, maker, wear and class. */
export function foundBy(discs: readonly ShelvedDisc[], find: string): ShelvedDisc[] {
  const words = find.toLowerCase().split(/\s+/).filter(Boolean)
  return discs.filter((d) => {
    const text = `${d.disc.code} ${lineage(d)} ${d.maker.name} ${d.disc.wear} ${DISC_CLASS_WORDS[d.mold.discClass]}`
    return words.every((w) => text.toLowerCase().includes(w))
  })
}
