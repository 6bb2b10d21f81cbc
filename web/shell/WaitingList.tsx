import { v7 as newId } from 'uuid'
import type { Throw } from '../../contract/trials.ts'
import { outbox, useRefused, useWaiting } from '../data/outbox.ts'
import type { Refused } from '../data/queue.ts'
import { useUnits } from '../data/preferences.tsx'
import { angleWords, aside } from '../data/units.ts'
import { Button } from '../parts/Button.tsx'
import { Dialog } from '../parts/Dialog.tsx'

/** What waits on this device, and what the server did not take and why. */
export default function WaitingList({ onClose }: { onClose: () => void }) {
  const count = useWaiting().length
  const refused = useRefused()
  return (
    <Dialog
      open
      onClose={onClose}
      title={refused.length > 0 ? 'Not taken by the server' : 'Waiting to be sent'}
    >
      {count > 0 && (
        <p>
          {count} {count === 1 ? 'change is' : 'changes are'} stored on this device and will be sent, in
          order, as soon as the server answers.
        </p>
      )}
      {refused.map((r) =>
        r.stored ? (
          <Conflict key={r.key} refused={r} />
        ) : (
          <div key={r.key} className="mt-3 rounded-lg border border-rule p-3">
            <p className="font-medium">{r.why}</p>
            <p className="mt-1 text-note text-quiet">
              Nothing of it was stored. Correct it where you entered it, then let this go.
            </p>
            <Button className="mt-2" onClick={() => void outbox.drop(r.key)}>
              Let it go
            </Button>
          </div>
        ),
      )}
    </Dialog>
  )
}

/** One throw, changed on two devices: both versions, until somebody chooses. */
function Conflict({ refused }: { refused: Refused }) {
  const [mine, other] = [refused.body, refused.stored] as unknown as [Throw, Throw]
  const settle = async (row?: Throw) => {
    if (row) await outbox.put('throws', row)
    await outbox.drop(refused.key)
  }
  return (
    <section aria-label="Changed on two devices" className="mt-3 rounded-lg border border-rule p-3">
      <p className="font-medium">{refused.why}</p>
      <dl className="mt-2 grid grid-cols-[7rem_1fr] gap-y-1">
        <dt className="text-quiet">On this device</dt>
        <dd>
          <Version of={mine} />
        </dd>
        <dt className="text-quiet">On the other</dt>
        <dd>
          <Version of={other} />
        </dd>
      </dl>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button kind="primary" onClick={() => void settle({ ...mine, version: other.version })}>
          Keep this one
        </Button>
        <Button onClick={() => void settle()}>Keep the other</Button>
        <Button onClick={() => void settle({ ...mine, id: newId(), version: 0 })}>They are two throws</Button>
      </div>
    </section>
  )
}

function Version({ of: t }: { of: Throw }) {
  const units = useUnits()
  return (
    <>
      {angleWords(t.hyzerDeg)}, {units.length.show(t.carryM)} down, {aside(units, t.rightM)}
      {!t.counts && `, left out: ${t.whyNot ?? 'no reason given'}`}
      {t.takenBackAt !== null && ', taken back'}
    </>
  )
}
