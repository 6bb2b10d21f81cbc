import type { KeyTable } from '../parts/keys.ts'

/** Keys that work everywhere. */
export const EVERYWHERE = {
  commands: { press: 'mod+k', shown: 'Ctrl K', does: 'go anywhere: stations, trials, discs' },
  keys: { press: '?', shown: '?', does: 'this list', written: true },
} as const satisfies KeyTable
