import { rollups } from 'd3'
import { useState } from 'react'
import type { ReactNode } from 'react'
import { v7 as newId } from 'uuid'
import type { Throw, Trial } from '../../contract/trials.ts'
import { writeOf } from '../../contract/writes.ts'
import type { Sent, WriteKind } from '../../contract/writes.ts'
import { fieldWords } from '../../contract/words.ts'
import { outbox, useHeld, useRefused, useWaiting } from '../data/outbox.ts'
import { isOf } from '../data/queueStore.ts'
import type { Refused } from '../data/queueStore.ts'
import type { Row } from '../../contract/row.ts'
import { useUnits } from '../data/preferences.tsx'
import { angleWords, aside } from '../data/units.ts'
import { valueWords } from '../data/valueWords.ts'
import { Button } from '../parts/Button.tsx'
import { Dialog } from '../parts/Dialog.tsx'
import { valueAt, isFigureOrText, NamedField } from './NamedField.tsx'

/** What waits on this device, and what the server did not take and why. */
export default function WaitingList({ onClose }: { onClose: () => void }) {
  const waiting = useWaiting()
  const refused = useRefused()
  const held = useHeld()
  const kinds = rollups(
    waiting,
    (list) => list.length,
    (w) => w.kind,
  )
  return (
    <Dialog
      open
      onClose={onClose}
      title={refused.length > 0 ? 'Not taken by the server' : 'Waiting to be sent'}
    >
      {waiting.length > 0 && (
        <>
          <p>Stored on this device, and sent in order as soon as the server answers:</p>
          <ul className="mt-1 list-disc pl-5">
            {kinds.map(([kind, count]) => (
              <li key={kind}>
                <span className="figure">{count}</span> {writeOf(kind).called[count === 1 ? 0 : 1]}
              </li>
            ))}
          </ul>
          {held !== undefined && <p className="mt-2 text-note text-quiet">{held}</p>}
        </>
      )}
      {refused.map((r) =>
        r.stored && isOf(r, 'throws') ? (
          <ThrowConflict key={r.key} refused={r} />
        ) : r.stored && isOf(r, 'trials') ? (
          <TrialConflict key={r.key} refused={r} />
        ) : r.stored && isOf(r, ...SHARED) ? (
          <FieldConflict key={r.key} refused={r} />
        ) : (
          <Mend key={r.key} refused={r} />
        ),
      )}
    </Dialog>
  )
}

/** A row the server says something against: the fields it names can be put right where they stand. */
function Mend({ refused: r }: { refused: Refused }) {
  const [row, setRow] = useState<Row>(r.body)
  const fields = (r.errors ?? []).filter((e) => isFigureOrText(valueAt(row, e.path)))
  return (
    <section aria-label="Not taken" className="mt-3 rounded-lg border border-rule p-3">
      <p className="text-note text-quiet">A {writeOf(r.kind).called[0]} was not taken:</p>
      {isOf(r, 'throws') && (
        <p>
          <Version of={r.body} />
        </p>
      )}
      <p className="font-medium">{r.why}</p>
      {fields.map(({ path }) => (
        <NamedField key={path} path={path} row={row} onChange={setRow} />
      ))}
      <p className="mt-1 text-note text-quiet">
        It is kept on this device. Put right what stands against it and send it again, or enter it anew and
        discard this.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button kind="primary" onClick={() => void outbox.sendAgain(r.key, row)}>
          Send it again
        </Button>
        <Button onClick={() => void outbox.drop(r.key)}>Discard</Button>
      </div>
    </section>
  )
}

/** A row changed on two devices: both versions, until somebody chooses. */
function Conflict({
  refused,
  mine,
  other,
  children,
}: {
  refused: Refused
  mine: ReactNode
  other: ReactNode
  /** What can be done about it. */
  children: ReactNode
}) {
  return (
    <section aria-label="Changed on two devices" className="mt-3 rounded-lg border border-rule p-3">
      <p className="font-medium">{refused.why}</p>
      <dl className="mt-2 grid grid-cols-[7rem_1fr] gap-y-1">
        <dt className="text-quiet">On this device</dt>
        <dd>{mine}</dd>
        <dt className="text-quiet">On the other</dt>
        <dd>{other}</dd>
      </dl>
      <div className="mt-3 flex flex-wrap gap-2">{children}</div>
    </section>
  )
}

const settling =
  <K extends WriteKind>(refused: Refused, kind: K) =>
  async (row?: Sent<K>) => {
    if (row) await outbox.put(kind, row)
    await outbox.drop(refused.key)
  }

function ThrowConflict({ refused }: { refused: Refused & { readonly body: Throw } }) {
  const [mine, other] = [refused.body, refused.stored as Throw]
  const settle = settling(refused, 'throws')
  return (
    <Conflict refused={refused} mine={<Version of={mine} />} other={<Version of={other} />}>
      <Button kind="primary" onClick={() => void settle({ ...mine, version: other.version })}>
        Keep this one
      </Button>
      <Button onClick={() => void settle()}>Keep the other</Button>
      <Button onClick={() => void settle({ ...mine, id: newId(), version: 0 })}>They are two throws</Button>
    </Conflict>
  )
}

function TrialConflict({ refused }: { refused: Refused & { readonly body: Trial } }) {
  const [mine, other] = [refused.body, refused.stored as Trial]
  const settle = settling(refused, 'trials')
  const next = { ...mine, version: other.version }
  return (
    <Conflict refused={refused} mine={trialWords(mine)} other={trialWords(other)}>
      <Button
        kind="primary"
        onClick={() =>
          void settle({
            ...next,
            discIds: [...new Set([...other.discIds, ...mine.discIds])],
            finishedAt: mine.finishedAt ?? other.finishedAt,
          })
        }
      >
        This one, with the discs of both
      </Button>
      <Button onClick={() => void settle(next)}>Keep this one</Button>
      <Button onClick={() => void settle()}>Keep the other</Button>
    </Conflict>
  )
}

/** Writes of rows that several people change field by field; some carry more than the row that is asked about. */
const SHARED = [
  ...(['discs', 'entries', 'shelf-edits'] as const),
  ...(['throwers', 'sessions', 'places', 'reviews'] as const),
] as const

/** The row of a write that is asked about, and the write with another row in its place. */
function asked(refused: Refused): { mine: Row; put: (row: Row) => Row } {
  const { stored } = refused
  if (isOf(refused, 'entries'))
    return { mine: refused.body.disc, put: (row) => ({ ...refused.body, disc: row }) as Row }
  if (isOf(refused, 'shelf-edits')) {
    const { discs } = refused.body
    return {
      mine: discs.find((d) => d.id === stored!.id)!,
      put: (row) => ({ ...refused.body, discs: discs.map((d) => (d.id === row.id ? row : d)) }) as Row,
    }
  }
  return { mine: refused.body, put: (row) => row }
}

/** A row of which two devices changed the same field: its fields as each has them, until somebody chooses. */
function FieldConflict({ refused }: { refused: Refused }) {
  const units = useUnits()
  const { mine, put } = asked(refused)
  const stored = refused.stored!
  const [own, other] = [mine, stored] as unknown as readonly Readonly<Record<string, unknown>>[]
  const fields = refused.errors?.map((e) => e.path) ?? Object.keys(own!).filter((f) => f !== 'version')
  const settle = settling(refused, refused.kind)
  const told = (row: Readonly<Record<string, unknown>>) => (
    <ul>
      {fields.map((f) => (
        <li key={f}>
          {fieldWords([f])}: {valueWords(units, f, row[f])}
        </li>
      ))}
    </ul>
  )
  // what does not cross, and whatever else the write says, is sent with either
  const keep = (fromHere: boolean) =>
    void settle(
      put({
        ...stored,
        ...(fromHere && Object.fromEntries(fields.map((f) => [f, own![f]]))),
      }) as Sent<typeof refused.kind>,
    )
  return (
    <Conflict refused={refused} mine={told(own!)} other={told(other!)}>
      <Button kind="primary" onClick={() => keep(true)}>
        Keep this one
      </Button>
      <Button onClick={() => keep(false)}>Keep the other</Button>
    </Conflict>
  )
}

const trialWords = (t: Trial): string =>
  [
    t.name,
    `${t.discIds.length} ${t.discIds.length === 1 ? 'disc' : 'discs'}`,
    `${t.plannedThrows} throws planned`,
    t.finishedAt !== null && 'finished',
    t.removedAt !== null && 'put away',
  ]
    .filter(Boolean)
    .join(', ')

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
