/** What happens in the life of a disc: nothing of it is deleted, it may be taken back. */
export const DISC_EVENTS = [
  'moved',
  'spared',
  'not-spared',
  'lost',
  'found',
  'lent',
  'back',
  'retired',
  'sold',
] as const
export type DiscEventKind = (typeof DISC_EVENTS)[number]

/** Where a disc is, as its log says. */
export const DISC_STATES = ['here', 'lent', 'lost', 'retired', 'sold'] as const

/** Where a disc is, which job it is carried for, and whether it is kept away from water and trees. */
export interface Life {
  readonly state: (typeof DISC_STATES)[number]
  readonly jobId: string | null
  readonly spared: boolean
}
const BEFORE: Life = { state: 'here', jobId: null, spared: false }

/** How a disc stands after what happened to it, in its order. */
export function lifeOf(
  events: readonly { readonly kind: DiscEventKind; readonly jobId: string | null }[],
): Life {
  return events.reduce((life, { kind, jobId }): Life => {
    if (kind === 'moved') return { ...life, jobId }
    if (kind === 'spared' || kind === 'not-spared') return { ...life, spared: kind === 'spared' }
    return { ...life, state: kind === 'found' || kind === 'back' ? 'here' : kind }
  }, BEFORE)
}

/** The pace a disc is used at is that of so many days: notes sum up a summer, and winters are slow. */
export const LATELY_DAYS = 365
