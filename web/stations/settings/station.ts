import { Settings } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** Units, theme, throwers; who comes in. */
export const settings: Door = {
  id: 'settings',
  name: 'Settings',
  group: 'apart',
  icon: Settings,
  screens: {
    main: screen('apart', 'settings', () => import('./Settings.tsx')),
    data: screen('apart', 'settings/data', () => import('./Data.tsx')),
    crew: screen('apart', 'settings/crew', () => import('./Crew.tsx')),
  },
  keys: [],
}
