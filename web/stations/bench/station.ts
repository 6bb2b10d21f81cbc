import { LayoutList } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** Home: the trials, what is open, what to do next. */
export const bench: Door = {
  id: 'bench',
  name: 'Bench',
  group: 'shed',
  icon: LayoutList,
  screens: {
    main: screen('shed', '', () => import('./Bench.tsx')),
    file: screen('shed', 'from-file', () => import('./StartFromFile.tsx')),
  },
  keys: [],
}
