import { Disc3 } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** The discs: what they are, how they feel, what is printed on them. */
export const shelf: Door = {
  id: 'shelf',
  name: 'Shelf',
  group: 'shed',
  icon: Disc3,
  screens: {
    main: screen('shed', 'shelf', () => import('./Shelf.tsx')),
    disc: screen('shed', 'shelf/:discId', () => import('./DiscPage.tsx')),
  },
  keys: [],
}
