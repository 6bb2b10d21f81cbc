import type { LeftOut } from '../../../core/rating/digest.ts'
import type { TrialView } from '../../data/hooks.ts'
import { Card } from '../../parts/Card.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

/** Throws that no arithmetic holds: left out of everything shown here until they are put right. */
export function NotWeighedHere({
  view,
  leftOut,
  name,
}: {
  view: TrialView
  leftOut: readonly LeftOut[]
  name: (code: string) => string
}) {
  if (leftOut.length === 0) return null
  const why = new Map(leftOut.map((t) => [t.throw, t.why]))
  return (
    <Card className="border-l-4 border-l-accent! p-4" label="Not weighed">
      <h2 className="text-lead">Not weighed</h2>
      <p className="text-note text-quiet">Left out of all that is shown here until it is put right.</p>
      <ul className="mt-2 grid gap-2">
        {view.throws.flatMap((t, i) => {
          const reason = why.get(t.id)
          const code = view.discs.find((d) => d.disc.id === t.discId)?.disc.code
          return reason === undefined
            ? []
            : [
                <li key={t.id}>
                  Throw {i + 1}, {code === undefined ? '?' : name(code)}: {reason}.{' '}
                  <StationLink
                    at="field"
                    params={{ trialId: view.trial.id }}
                    search={`?edit=${t.id}`}
                    className="font-medium underline"
                  >
                    Put it right
                  </StationLink>
                </li>,
              ]
        })}
      </ul>
    </Card>
  )
}
