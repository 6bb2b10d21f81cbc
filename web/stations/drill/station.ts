import { Eye } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** Trains the call that reviewing needs. */
export const drill: Door = {
  id: 'drill',
  name: 'Eye drill',
  group: 'shed',
  icon: Eye,
  screens: { main: screen('shed', 'drill', () => import('./Drill.tsx')) },
  keys: [
    ['Space', 'see the flight again'],
    ['Enter', 'answer, and the next'],
    ['1, 2, 3', 'choose one of the answers'],
  ],
}
