import type { KeyTable } from '../../parts/keys.ts'

/** Keys while a flight is asked about. */
export const DRILL_KEYS = {
  again: { press: 'space', shown: 'Space', does: 'see the flight again' },
  answer: { press: 'enter', shown: 'Enter', does: 'answer, and the next' },
  choose: { press: ['1', '2', '3'], shown: '1 … 3', does: 'choose one of the answers' },
} as const satisfies KeyTable
