/** Classes of discs, from the slowest, and what each is called. */
export const DISC_CLASS_WORDS = {
  putter: 'putter',
  approach: 'approach',
  midrange: 'midrange',
  'fairway-driver': 'fairway driver',
  'distance-driver': 'distance driver',
} as const
export type DiscClass = keyof typeof DISC_CLASS_WORDS
export const DISC_CLASSES = Object.keys(DISC_CLASS_WORDS) as DiscClass[]

/** Where discs come from, as their owner says. */
export const SOURCE_WORDS = {
  bought: 'bought',
  lent: 'lent',
  'sent-by-the-maker': 'sent by the maker',
  found: 'found',
  unknown: 'unknown',
} as const
export type DiscSource = keyof typeof SOURCE_WORDS
export const SOURCES = Object.keys(SOURCE_WORDS) as DiscSource[]
