import { Wind } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** Throws as they land, and the short game. */
export const field: Door = {
  id: 'field',
  name: 'Field',
  group: 'trial',
  icon: Wind,
  screens: {
    main: screen('trial', 'field', () => import('./Field.tsx')),
    short: screen('trial', 'short', () => import('./ShortGame.tsx')),
  },
  keys: [
    ['← → ↑ ↓', 'move the landing by a metre; with Shift by five'],
    ['Enter', 'keep the throw'],
    ['U', 'take back the last throw'],
    ['[  ]', 'less or more hyzer out of the hand'],
    ['C', 'counts or not'],
    ['E  H', 'nose and height, option by option'],
    ['1 … 5', 'what it did in the air'],
    ['F', 'a recorded path from a file'],
    ['A', 'the last throw again'],
    ['N', 'this throw later, the one after it now'],
    ['P', 'pause, and go on'],
    ['R', 'have the range finder measure the landing'],
    ['S', 'stopwatch, from release to first contact'],
    ['T', 'the next thrower'],
    ['V', 'let the volunteer throw it'],
    ['X', 'stretch the side, or true scale'],
    ['Z', 'look closer, or at the whole field'],
    ['W', 'turn round, the wind flips'],
    ['M', 'the most telling throw next, or the one thrown least'],
    ['M  X', 'in putting: made, missed'],
  ],
}
