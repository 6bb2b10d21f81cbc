import { ScrollText } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** What the throws say. */
export const readout: Door = {
  id: 'readout',
  name: 'Readout',
  group: 'trial',
  icon: ScrollText,
  screens: {
    main: screen('trial', 'readout/:view?', () => import('./Readout.tsx')),
    import: screen('trial', 'import', () => import('./Import.tsx')),
  },
  keys: [],
}
