import { Wind } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'
import { FIELD_KEYS, SHORT_GAME_KEYS } from './keys.ts'

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
  keys: [...Object.values(FIELD_KEYS), ...Object.values(SHORT_GAME_KEYS)],
}
