import { AIR_CALLS } from '../../../core/rating/calls.ts'
import type { KeyTable } from '../../parts/keys.ts'

/** Keys while throws are logged. */
export const FIELD_KEYS = {
  move: {
    press: ['left', 'right', 'up', 'down', 'shift+left', 'shift+right', 'shift+up', 'shift+down'],
    shown: '← → ↑ ↓',
    does: 'move the landing by a metre; with Shift by five',
  },
  keep: { press: 'enter', shown: 'Enter', does: 'keep the throw' },
  takeBack: { press: 'u', shown: 'U', does: 'take back the last throw' },
  lessHyzer: { press: '[', shown: '[', does: 'less hyzer out of the hand', written: true },
  moreHyzer: { press: ']', shown: ']', does: 'more hyzer out of the hand', written: true },
  count: { press: 'c', shown: 'C', does: 'counts or not' },
  nose: { press: 'e', shown: 'E', does: 'nose, option by option' },
  height: { press: 'h', shown: 'H', does: 'height, option by option' },
  air: {
    press: AIR_CALLS.map((_, i) => String(i + 1)),
    shown: `1 … ${AIR_CALLS.length}`,
    does: 'what it did in the air',
    written: true,
  },
  path: { press: 'f', shown: 'F', does: 'a recorded path from a file' },
  again: { press: 'a', shown: 'A', does: 'the last throw again' },
  later: { press: 'n', shown: 'N', does: 'this throw later, the one after it now' },
  pause: { press: 'p', shown: 'P', does: 'pause, and go on' },
  range: { press: 'r', shown: 'R', does: 'have the range finder measure the landing' },
  clock: { press: 's', shown: 'S', does: 'stopwatch, from release to first contact' },
  nextThrower: { press: 't', shown: 'T', does: 'the next thrower' },
  volunteer: { press: 'v', shown: 'V', does: 'let the volunteer throw it' },
  stretch: { press: 'x', shown: 'X', does: 'stretch the side, or true scale' },
  closer: { press: 'z', shown: 'Z', does: 'look closer, or at the whole field' },
  turn: { press: 'w', shown: 'W', does: 'turn round, the wind flips' },
  telling: { press: 'm', shown: 'M', does: 'the most telling throw next, or the one thrown least' },
} as const satisfies KeyTable

/** Keys of the short game. */
export const SHORT_GAME_KEYS = {
  takeBack: { press: 'u', shown: 'U', does: 'in the short game: take back the last throw' },
  made: { press: 'm', shown: 'M', does: 'in putting: made' },
  missed: { press: 'x', shown: 'X', does: 'in putting: missed' },
} as const satisfies KeyTable
