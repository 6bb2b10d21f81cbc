import { format } from 'date-fns'
import type { FailedTry } from '../../../../contract/crew.ts'
import { useFailedTries } from '../../../data/crew.ts'
import { Card } from '../../../parts/Card.tsx'

const tried = ({ what, name }: FailedTry) =>
  what === 'passphrase'
    ? `a passphrase of ${name || 'somebody'}`
    : what === 'code'
      ? 'a code that was none'
      : 'an invitation that was none'

/** So many are shown; the others are older. */
const SHOWN = 6

/** Who tried to come in and could not. Nothing where nobody did. */
export function FailedTries() {
  const list = useFailedTries()
  if (!list || list.length === 0) return null
  return (
    <Card className="p-5" label="Tries that failed">
      <h2 className="text-title">Tries that failed</h2>
      <p className="mb-2 text-note text-quiet">
        Guesses are slowed for whoever makes them. If you know nothing of these, withdraw what is open, and
        ask whose name it is for another passphrase.
      </p>
      <ul>
        {list.slice(0, SHOWN).map((t) => (
          <li key={t.id} className="border-t border-rule py-2">
            <span className="block">
              <span className="figure">{t.tries}</span> × {tried(t)}
            </span>
            <span className="block text-note text-quiet">
              from {t.address}, last {format(new Date(t.lastAt), 'd MMMM, HH:mm')}
            </span>
          </li>
        ))}
      </ul>
    </Card>
  )
}
