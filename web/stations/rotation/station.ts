import { RefreshCw } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** Which disc does which job, and when it will no longer. */
export const rotation: Door = {
  id: 'rotation',
  name: 'Rotation',
  group: 'shed',
  icon: RefreshCw,
  screens: {
    main: screen('shed', 'rotation', () => import('./Rotation.tsx')),
    bag: screen('shed', 'rotation/bag', () => import('./Bag.tsx')),
  },
  keys: [],
}
