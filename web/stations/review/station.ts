import { PenLine } from 'lucide-react'
import { screen } from '../../parts/door.ts'
import type { Door } from '../../parts/door.ts'

/** What is said, shown and handed out. */
export const review: Door = {
  id: 'review',
  name: 'Review',
  group: 'trial',
  icon: PenLine,
  screens: {
    main: screen('trial', 'review', () => import('./Reviews.tsx')),
    compose: screen('trial', 'review/:reviewId', () => import('./Compose.tsx')),
  },
  keys: [],
}
