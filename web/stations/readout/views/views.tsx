import type { ComponentType } from 'react'
import { Flights } from '../Flights.tsx'
import { ShortGames } from '../ShortGames.tsx'
import { AnswerView } from './AnswerView.tsx'
import { AskedView } from './AskedView.tsx'
import { EvidenceView } from './EvidenceView.tsx'
import { LikenessView } from './LikenessView.tsx'
import { PairsView } from './PairsView.tsx'
import { ThrowersView } from './ThrowersView.tsx'
import { ThrowsView } from './ThrowsView.tsx'
import type { ViewProps } from './viewProps.ts'

/** A view of a readout: what its link says, and what it shows. */
interface View {
  readonly words: string
  readonly show: ComponentType<ViewProps>
}

/** The views of a readout by their addresses, in their order. */
export const VIEWS = {
  answer: { words: 'Answer', show: AnswerView },
  flights: { words: 'Flights', show: (props) => <Flights {...props} picked={undefined} figures /> },
  evidence: { words: 'Claim and evidence', show: EvidenceView },
  pairs: { words: 'Pairs', show: PairsView },
  wind: { words: 'Wind', show: (props) => <AskedView {...props} question="wind" /> },
  arms: { words: 'Arms', show: (props) => <AskedView {...props} question="arms" oneDisc /> },
  likeness: { words: 'Likeness', show: LikenessView },
  short: { words: 'Short game', show: ShortGames },
  throws: { words: 'Throws', show: ThrowsView },
  throwers: { words: 'Throwers', show: ThrowersView },
} as const satisfies Readonly<Record<string, View>>
export type ViewName = keyof typeof VIEWS
export const isView = (name: string): name is ViewName => name in VIEWS
