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
