import { ListOrdered } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** The question, the discs, what is expected, the order of the throws. */
export const plan: Door = {
  id: 'plan',
  name: 'Plan',
  group: 'trial',
  icon: ListOrdered,
  screens: {
    main: screen('trial', 'plan', () => import('./Plan.tsx')),
    sheet: screen('trial', 'sheet', () => import('./SheetEntry.tsx')),
  },
  keys: [],
}
