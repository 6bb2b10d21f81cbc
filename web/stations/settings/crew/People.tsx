import { useState } from 'react'
import { ROLE_WORDS, ROLES } from '../../../../contract/roles.ts'
import type { Member, Pass } from '../../../../contract/crew.ts'
import type { Role } from '../../../../contract/roles.ts'
import { changeMember, invite, usePeople, useSharing } from '../../../data/crew.ts'
import { Button } from '../../../parts/Button.tsx'
import { Card } from '../../../parts/Card.tsx'
import { Choice } from '../../../parts/Choice.tsx'
import { Dialog } from '../../../parts/Dialog.tsx'
import { TextInput } from '../../../parts/Inputs.tsx'
import { QrCode } from '../../../parts/QrCode.tsx'
import { say, sayWrong } from '../../../data/say.ts'
import { Select, plainOptions } from '../../../parts/Select.tsx'

const done = (act: Promise<void>, words: string) =>
  void act.then(
    () => say(words),
    (e: Error) => sayWrong(e.message),
  )

/** Who is of the crew, and what each may do. */
export function People({ me, signedIn }: { me: Member; signedIn: boolean }) {
  const people = usePeople()
  const isOwner = me.role === 'owner'
  const [inviting, setInviting] = useState(false)
  /** Who is about to become an owner. */
  const [raised, setRaised] = useState<Member>()
  const change = (p: Member, role: Role, removed: boolean, words: string) =>
    // from a device, whoever makes an owner shows once more that it is them
    signedIn && role === 'owner' && !removed
      ? setRaised(p)
      : done(changeMember(p.id, { role, removed }), words)
  const here = people?.filter((p) => p.removedAt === null) ?? []
  const gone = people?.filter((p) => p.removedAt !== null) ?? []
  return (
    <Card className="p-5" label="People">
      <div className="mb-2 flex items-baseline justify-between gap-4">
        <h2 className="text-title">People</h2>
        {isOwner && <Button onClick={() => setInviting(true)}>Invite somebody</Button>}
      </div>
      <ul>
        {here.map((p) => (
          <li key={p.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2">
            <span className="min-w-24 flex-1 font-medium">
              {p.name}
              {p.id === me.id && <span className="font-normal text-quiet"> (you)</span>}
            </span>
            {isOwner ? (
              <>
                <Select
                  label={`Role of ${p.name}`}
                  hideLabel
                  className="w-28"
                  value={p.role}
                  onChange={(v) => change(p, v, false, `${p.name} is a ${v} now.`)}
                  options={plainOptions(ROLES)}
                />
                {p.id !== me.id && (
                  <Button
                    kind="quiet"
                    aria-label={`Remove ${p.name}`}
                    onClick={() => {
                      done(
                        changeMember(p.id, { role: p.role, removed: true }),
                        `${p.name} comes in no more; what they logged stays theirs.`,
                      )
                    }}
                  >
                    Remove
                  </Button>
                )}
              </>
            ) : (
              <span className="text-quiet">{p.role}</span>
            )}
          </li>
        ))}
        {isOwner &&
          gone.map((p) => (
            <li key={p.id} className="flex items-center gap-3 border-t border-rule py-2 text-quiet">
              <span className="flex-1">{p.name}, removed</span>
              <Button
                kind="quiet"
                aria-label={`Let ${p.name} in again`}
                onClick={() => change(p, p.role, false, `${p.name} may come in again.`)}
              >
                Let in again
              </Button>
            </li>
          ))}
      </ul>
      <dl className="mt-2 grid grid-cols-[4.5rem_1fr] gap-y-0.5 border-t border-rule pt-2 text-note text-quiet">
        {ROLES.toReversed().map((r) => (
          <div key={r} className="contents">
            <dt className="font-medium">{r}</dt>
            <dd>{ROLE_WORDS[r]}</dd>
          </div>
        ))}
      </dl>
      {inviting && <Invitation signedIn={signedIn} onClose={() => setInviting(false)} />}
      {raised && <Raise person={raised} onClose={() => setRaised(undefined)} />}
    </Card>
  )
}

/** Asks whoever makes somebody an owner for their passphrase. */
function Raise({ person, onClose }: { person: Member; onClose: () => void }) {
  const [passphrase, setPassphrase] = useState('')
  const [wrong, setWrong] = useState<string>()
  const make = async () => {
    try {
      await changeMember(person.id, { role: 'owner', removed: false, passphrase })
      say(`${person.name} is an owner now.`)
      onClose()
    } catch (e) {
      setWrong((e as Error).message)
    }
  }
  return (
    <Dialog open onClose={onClose} title={`Make ${person.name} an owner`}>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          void make()
        }}
      >
        <p className="mb-3">
          An owner {ROLE_WORDS.owner}: people, copies, what is published. Show that it is you.
        </p>
        <OwnPassphrase value={passphrase} onChange={setPassphrase} error={wrong} />
        <Button kind="primary" type="submit" className="mt-4">
          Make an owner
        </Button>
      </form>
    </Dialog>
  )
}

function OwnPassphrase({
  value,
  onChange,
  error,
}: {
  value: string
  onChange: (value: string) => void
  error: string | undefined
}) {
  return (
    <TextInput
      label="Your own passphrase"
      type="password"
      autoComplete="current-password"
      value={value}
      error={error}
      onChange={(e) => onChange(e.target.value)}
    />
  )
}

/** A link that makes one person. */
function Invitation({ signedIn, onClose }: { signedIn: boolean; onClose: () => void }) {
  const [passphrase, setPassphrase] = useState('')
  const [wrong, setWrong] = useState<string>()
  const asksAgain = signedIn
  const [role, setRole] = useState<Role>('scribe')
  const [pass, setPass] = useState<Pass>()
  const sharing = useSharing(true)
  const at = sharing?.urls[0] ?? location.origin
  const link = pass && `${at}/join#${pass.secret}`
  const make = async () => {
    try {
      setPass(await invite(role, passphrase))
    } catch (e) {
      if (asksAgain && role === 'owner') setWrong((e as Error).message)
      else sayWrong((e as Error).message)
    }
  }
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(link!)
      say('The link was copied.')
    } catch {
      sayWrong('This browser does not copy; mark the link and copy it by hand.')
    }
  }
  return (
    <Dialog open onClose={onClose} title="Invite somebody">
      {link === undefined ? (
        <>
          <Choice
            showLabel
            label="As"
            value={role}
            onChange={setRole}
            options={ROLES.map((value) => ({ value, label: value }))}
          />
          <p className="mt-2">
            A {role} {ROLE_WORDS[role]}.
          </p>
          {asksAgain && role === 'owner' && (
            <div className="mt-3">
              <OwnPassphrase value={passphrase} onChange={setPassphrase} error={wrong} />
            </div>
          )}
          <Button kind="primary" className="mt-4" onClick={() => void make()}>
            Make a link
          </Button>
        </>
      ) : (
        <div className="flex gap-4 max-sm:flex-col">
          <QrCode text={link} label="Code that opens the invitation" />
          <div className="min-w-0">
            <p>Whoever opens this link first becomes a {role}, within a week. It is shown only now.</p>
            <p className="mt-2 font-mono text-note break-all">{link}</p>
            <Button className="mt-3" onClick={() => void copy()}>
              Copy the link
            </Button>
            {sharing?.on === false && sharing.switchable && (
              <p className="mt-3 font-medium text-accent">
                Phones cannot reach this machine yet: let them in first.
              </p>
            )}
            {sharing?.trustUrl && (
              <p className="mt-3 text-note text-quiet">
                Their phone has to trust this machine first: {sharing.trustUrl}
              </p>
            )}
          </div>
        </div>
      )}
    </Dialog>
  )
}
