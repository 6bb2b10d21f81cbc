import { Waypoints } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'
import { LAB_KEYS } from './keys.ts'

/** Which line a disc takes, before it is thrown. */
export const lab: Door = {
  id: 'lab',
  name: 'Line lab',
  group: 'shed',
  icon: Waypoints,
  screens: { main: screen('shed', 'lab', () => import('./Lab.tsx')) },
  keys: Object.values(LAB_KEYS),
}
