import { formatDistanceToNowStrict } from 'date-fns'
import type { Offer } from '../../contract/crew.ts'
import { fieldWords } from '../../contract/words.ts'
import type { WriteKind } from '../../contract/writes.ts'
import { leaveOffer, takeOffer, useMe, useOffers } from '../data/crew.ts'
import { useUnits } from '../data/preferences.tsx'
import { valueWords } from '../data/valueWords.ts'
import { Button } from './Button.tsx'
import { Card } from './Card.tsx'
import { say, sayWrong } from '../data/say.ts'

const CALLED: Readonly<Record<string, string>> = {
  sessions: 'The outing',
  throwers: 'The thrower',
  inspections: 'The inspection of',
  throws: 'The throw',
  'short-throws': 'The throw of',
  'wind-logs': 'The wind of',
}
function Change({ offer }: { offer: Offer }) {
  const units = useUnits()
  const done = (act: Promise<unknown>, words: string) =>
    void act.then(
      () => say(words),
      (e: Error) => sayWrong(e.message),
    )
  const about = `${CALLED[offer.kind] ?? offer.kind} ${offer.name}`
  return (
    <li className="border-t border-rule py-3">
      <p className="font-medium">{about}</p>
      <p className="text-note text-quiet">
        {offer.person}, {formatDistanceToNowStrict(new Date(offer.offeredAt))} ago
      </p>
      <ul className="mt-1">
        {offer.fields.map(({ field, now, then }) => (
          <li key={field}>
            {fieldWords([field])}: <del className="text-quiet">{valueWords(units, field, now)}</del>{' '}
            <ins className="font-medium no-underline">{valueWords(units, field, then)}</ins>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex gap-2">
        <Button aria-label={`Take over: ${about}`} onClick={() => done(takeOffer(offer.id), 'Taken over.')}>
          Take over
        </Button>
        <Button
          kind="quiet"
          aria-label={`Leave as it is: ${about}`}
          onClick={() => done(leaveOffer(offer.id), 'Left as it is.')}
        >
          Leave as it is
        </Button>
      </div>
    </li>
  )
}

/**
 * Changes that scribes made of what others logged, for an owner to take over: all of them, or beside the rows they are about.
 * Nothing where there are none, and for whoever is no owner.
 */
export function Offered({
  kind,
  ids,
  className = 'p-5',
}: {
  /** Of which rows; of all where there is none. */
  kind?: WriteKind
  ids?: readonly string[]
  className?: string
}) {
  const isOwner = useMe()?.person?.role === 'owner'
  const offers = useOffers(isOwner)?.filter(
    (o) => (kind === undefined || o.kind === kind) && (ids === undefined || ids.includes(o.rowId)),
  )
  if (!offers || offers.length === 0) return null
  return (
    <Card className={className} label="Changes to take over">
      <h2 className="mb-2 text-lead">Changes to take over</h2>
      <p className="text-quiet">
        A scribe changed what somebody else logged. It stands as it was until you say.
      </p>
      <ul className="mt-2">
        {offers.map((o) => (
          <Change key={o.id} offer={o} />
        ))}
      </ul>
    </Card>
  )
}
