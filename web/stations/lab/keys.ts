import type { KeyTable } from '../../parts/keys.ts'

/** Keys of the line lab. */
export const LAB_KEYS = {
  play: { press: 'space', shown: 'Space', does: 'play, or stop' },
  back: { press: 'comma', shown: ',', does: 'a tenth of a second back' },
  on: { press: 'period', shown: '.', does: 'a tenth of a second on' },
  find: { press: 'f', shown: 'F', does: 'find the throw' },
} as const satisfies KeyTable
