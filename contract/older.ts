import { WIRE, WriteKindName } from './writes.ts'
import type { WriteKind } from './writes.ts'
import type { Row } from './row.ts'

/** A write as some version of this app put it down. */
export interface KeptWrite {
  readonly kind?: unknown
  readonly wire?: unknown
  /** Before kinds were written down: where it was sent to. */
  readonly path?: unknown
  /** What the device's clock showed then. */
  readonly at?: unknown
  readonly body: Row
}

/** A write in the shapes of today. */
export interface CurrentWrite {
  readonly kind: WriteKind
  readonly wire: number
  readonly body: Row
  readonly at?: number | undefined
}

/**
 * What was written in words up to version 3 and is an id since, by the field it stands in: the id is the words with hyphens.
 */
const WORDS_OF_3: Readonly<Record<string, readonly string[]>> = {
  kind: ['short game', 'left out', 'not spared', 'more stable', 'stood up'],
  asks: ['short game'],
  fixedBy: ['least to most stable', 'known before unknown', 'candidate last'],
  protocol: ['same release', 'same line'],
  says: [
    'is more stable than',
    'is less stable than',
    'flies farther than',
    'flies straighter than',
    'has more glide than',
    'finishes harder than',
    'skips farther than',
  ],
  slot: ['earns a slot', 'earns no slot'],
  again: ['would buy again', 'would not buy again'],
  view: ['left out', 'in the hand'],
  like: ['nose up'],
  discClass: ['fairway driver', 'distance driver'],
  class: ['fairway driver', 'distance driver'],
  source: ['sent by the maker'],
  state: ['under way'],
  why: ['by hand', 'before a restore', 'before a merge'],
  database: ['takes writes'],
  ratings: ['up to date'],
}
const IDS_OF_4 = Object.fromEntries(
  Object.entries(WORDS_OF_3).map(([field, all]) => [
    field,
    new Map(all.map((words) => [words, words.replaceAll(' ', '-')])),
  ]),
)
const BACK_TO_3 = Object.fromEntries(
  Object.entries(IDS_OF_4).map(([field, ids]) => [
    field,
    new Map([...ids].map(([words, id]) => [id, words])),
  ]),
)

/** A value with the words of some fields exchanged, however deep they stand; what is not touched stays the same. */
function exchanged(
  value: unknown,
  by: Readonly<Record<string, ReadonlyMap<string, string>>>,
  field = '',
): unknown {
  if (typeof value === 'string') return by[field]?.get(value) ?? value
  if (Array.isArray(value)) return value.map((item) => exchanged(item, by, field))
  if (typeof value !== 'object' || value === null || Object.getPrototypeOf(value) !== Object.prototype)
    return value
  return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, exchanged(v, by, key)]))
}

/** What a page of the version before asks or sends, in the words of today. */
export const inWordsOfToday = (sent: unknown): unknown => exchanged(sent, IDS_OF_4)
/** An answer of today in the words of the version before. */
export const inWordsOfBefore = (answer: unknown): unknown => exchanged(answer, BACK_TO_3)

/** What became of the shapes of rows from one version of the wire to the next, the oldest first. */
const CHANGES: readonly ((kind: WriteKind, body: Row) => Row)[] = [
  // 1 → 2: the skip of a short throw is its ground play; an entry has an id
  (kind, body) => {
    if (kind === 'short-throws') {
      const { skipM, ...rest } = body as Row & { skipM?: number | null }
      return { groundM: skipM ?? null, ...rest } as Row
    }
    return body
  },
  // 2 → 3: a trial says which version a change of it was made from; one of before names none
  (_, body) => body,
  // 3 → 4: words are ids
  (_, body) => inWordsOfToday(body) as Row,
]

/**
 * Brings a write that waited through an update of the app into the shapes of today.
 *
 * @returns undefined for a write of a kind that nobody knows any more
 */
export function broughtForward(kept: KeptWrite): CurrentWrite | undefined {
  const named = kept.kind ?? (typeof kept.path === 'string' ? kept.path.split('/')[2] : undefined)
  const kind = WriteKindName.safeParse(named)
  if (!kind.success) return undefined
  const from = typeof kept.wire === 'number' ? kept.wire : 1
  const body = CHANGES.slice(from - 1, WIRE - 1).reduce((row, change) => change(kind.data, row), kept.body)
  return { kind: kind.data, wire: WIRE, body, ...(typeof kept.at === 'number' && { at: kept.at }) }
}
