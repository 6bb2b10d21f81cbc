import { Settings } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** Units, theme, throwers. */
export const settings: Door = {
  id: 'settings',
  name: 'Settings',
  group: 'apart',
  icon: Settings,
  screens: { main: screen('apart', 'settings', () => import('./Settings.tsx')) },
  keys: [],
}
