import { formatDistanceToNowStrict } from 'date-fns'
import { takeKeyAway, useKeys } from '../../../data/crew.ts'
import { Button } from '../../../parts/Button.tsx'
import { Card } from '../../../parts/Card.tsx'
import { say, sayWrong } from '../../../data/say.ts'

/** A key is noted to be used at most once a minute; younger than that is now, ms. */
const NOW_MS = 90_000

const seenWords = (at: string): string =>
  Date.now() - Date.parse(at) < NOW_MS
    ? 'here now'
    : `last here ${formatDistanceToNowStrict(new Date(at))} ago`

/** Devices that can come in; each can be taken its key away. */
export function Devices({ ownKeyId, everybodys }: { ownKeyId: string | null; everybodys: boolean }) {
  const keys = useKeys()
  return (
    <Card className="p-5" label="Devices">
      <h2 className="mb-2 text-title">{everybodys ? 'Devices' : 'Your devices'}</h2>
      {keys?.length === 0 && <p className="text-quiet">No device has been paired yet.</p>}
      <ul>
        {keys?.map((k) => (
          <li key={k.id} className="flex items-center gap-3 border-t border-rule py-2">
            <span className="min-w-0 flex-1">
              <span className="block font-medium">
                {k.name}
                {k.id === ownKeyId && <span className="font-normal text-quiet"> (this one)</span>}
              </span>
              <span className="block text-note text-quiet">
                {everybodys && `${k.person} · `}
                {seenWords(k.seenAt)}
              </span>
            </span>
            {k.id !== ownKeyId && (
              <Button
                kind="quiet"
                aria-label={`Sign ${k.name} of ${k.person} out`}
                onClick={() =>
                  void takeKeyAway(k.id).then(
                    () => say(`${k.name} is signed out. What it has not sent stays on it.`),
                    (e: Error) => sayWrong(e.message),
                  )
                }
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Card>
  )
}
