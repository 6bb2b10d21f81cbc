import { formatDistanceToNowStrict } from 'date-fns'
import type { OpenPass } from '../../../../contract/crew.ts'
import { takePassBack, usePasses } from '../../../data/crew.ts'
import { Button } from '../../../parts/Button.tsx'
import { Card } from '../../../parts/Card.tsx'
import { say, sayWrong } from '../../../data/say.ts'

const called = ({ kind, role }: OpenPass) =>
  kind === 'pairing' ? 'A code that pairs a device' : `A link that makes a ${role}`

/** Links and codes that would let somebody in, each to be withdrawn. Nothing where none is open. */
export function Open({ everybodys }: { everybodys: boolean }) {
  const passes = usePasses()
  if (!passes || passes.length === 0) return null
  return (
    <Card className="p-5" label="Open links and codes">
      <h2 className="mb-2 text-title">Open links and codes</h2>
      <ul>
        {passes.map((p) => (
          <li key={p.id} className="flex items-center gap-3 border-t border-rule py-2">
            <span className="min-w-0 flex-1">
              <span className="block font-medium">{called(p)}</span>
              <span className="block text-note text-quiet">
                {everybodys && `${p.person} · `}
                made {p.device === null ? 'at the machine itself' : `on ${p.device}`}, over in{' '}
                {formatDistanceToNowStrict(new Date(p.expiresAt))}
              </span>
            </span>
            <Button
              kind="quiet"
              aria-label={`Withdraw: ${called(p)}, made by ${p.person}`}
              onClick={() =>
                void takePassBack(p.id).then(
                  () => say('Withdrawn: it lets nobody in any more.'),
                  (e: Error) => sayWrong(e.message),
                )
              }
            >
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
    </Card>
  )
}
