import type { LiveView } from '../../../../core/review/document.ts'

/** What live blocks are called where one is chosen. */
export const LIVE_WORDS: Readonly<Record<LiveView, string>> = {
  discs: 'The discs',
  answer: 'Picture of the answer',
  flights: 'Flights',
  numbers: 'Claim and evidence',
  arms: 'Other arms',
  wind: 'The wind',
  pairs: 'Every pair',
  throws: 'The throws',
  'left out': 'Throws left out',
  'in the hand': 'Rims',
}
