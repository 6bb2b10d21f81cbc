import { Eye } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'
import { DRILL_KEYS } from './keys.ts'

/** Trains the call that reviewing needs. */
export const drill: Door = {
  id: 'drill',
  name: 'Eye drill',
  group: 'shed',
  icon: Eye,
  screens: { main: screen('shed', 'drill', () => import('./Drill.tsx')) },
  keys: Object.values(DRILL_KEYS),
}
