import { GAMES } from '../../../core/throw/short.ts'
import { ShortSummary } from '../../charts/ShortSummary.tsx'
import { useShortThrows } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { buttonLook } from '../../parts/Button.tsx'
import { Card, Empty } from '../../parts/Card.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

const TITLES = {
  ground: 'On the ground',
  approach: 'Approaches',
  putting: 'Putting',
  holes: 'Holes',
} as const

/** What was logged of the short game, a card a game. */
export function ShortGames({ view, name }: { view: TrialView; name: (code: string) => string }) {
  const throws = useShortThrows(view.trial.id)
  if (throws.length === 0)
    return (
      <Empty
        title="Nothing of the short game has been logged"
        action={
          <StationLink at="field/short" params={{ trialId: view.trial.id }} className={buttonLook('primary')}>
            Log a skip, an approach, a putt or a hole
          </StationLink>
        }
      >
        How far discs skip, where they stop, what is made and what a hole takes stand here once there is
        something.
      </Empty>
    )
  return GAMES.filter((g) => throws.some((t) => t.game === g)).map((game) => (
    <Card key={game} className="p-4" label={TITLES[game]}>
      <div className="flex items-baseline gap-3">
        <h2 className="mr-auto text-lead">{TITLES[game]}</h2>
        <StationLink
          at="field/short"
          params={{ trialId: view.trial.id }}
          search={`?game=${game}`}
          className="text-note underline underline-offset-4"
        >
          Log more
        </StationLink>
      </div>
      <ShortSummary game={game} throws={throws} discs={view.discs} name={name} />
    </Card>
  ))
}
