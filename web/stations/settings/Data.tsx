import { format, formatDistanceToNowStrict } from 'date-fns'
import { Download } from 'lucide-react'
import { useRef, useState } from 'react'
import type { ReactNode } from 'react'
import { COPY_WORDS, isOpen } from '../../../contract/custody.ts'
import type { Copy, Custody, Errand, CopyStanding } from '../../../contract/custody.ts'
import { useMe } from '../../data/crew.ts'
import {
  cancelErrand,
  dropCopy,
  makeCopy,
  readAnew,
  restoreCopy,
  sendPackage,
  standingOfCopy,
  standingOfFile,
  useCustody,
  useErrand,
} from '../../data/custody.ts'
import type { PackageTo } from '../../data/custody.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty } from '../../parts/Card.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { Sections } from './Sections.tsx'

const megabytes = (bytes: number) =>
  bytes < 1e6
    ? `${Math.ceil(bytes / 1e3)} kB`
    : bytes < 1e9
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : `${(bytes / 1e9).toFixed(1)} GB`
const count = (n: number, one: string) => `${n.toLocaleString('en')} ${one}${n === 1 ? '' : 's'}`

/** Copies made, sent and restored, one piece of work at a time. */
function useCopying(custody: Custody | undefined) {
  const [errandId, setErrandId] = useState<string>()
  const [asked, setAsked] = useState<Asked>()
  const [sending, setSending] = useState<Sending>()
  /** A package of which it was found out what it would bring in. */
  const [looked, setLooked] = useState<File>()
  const underWay = custody?.underWay[0]?.id
  const errand = useErrand(errandId ?? underWay, (over) => {
    if (over.state === 'done' && over.kind !== 'copy') void readAnew()
  })
  const busy = sending !== undefined || (errand !== undefined && isOpen(errand))
  const begin = async (act: () => Promise<Errand>) => {
    try {
      setErrandId((await act()).id)
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const sent = async <T,>(send: (told: (share: number) => void, signal: AbortSignal) => Promise<T>) => {
    const stop = new AbortController()
    setSending({ share: 0, stop })
    try {
      return await send((share) => setSending({ share, stop }), stop.signal)
    } finally {
      setSending(undefined)
    }
  }
  const send = (to: PackageTo, file: File, take?: readonly string[]) =>
    begin(() => sent((told, signal) => sendPackage(to, file, told, signal, take)))
  /** Looks what stands otherwise in a package before it is asked whether to restore it. */
  const look = async (what: Asked) => {
    try {
      const standing = what.file
        ? await sent((told, signal) => standingOfFile(what.file!, told, signal))
        : await standingOfCopy(what.copy!.name)
      setAsked({ ...what, standing })
    } catch (e) {
      setAsked({ ...what, wrong: (e as Error).message })
    }
  }
  return { asked, setAsked, sending, errand, setErrandId, busy, looked, setLooked, begin, send, look }
}

/** Where the data are, copies of them, and what is restored from a file. */
export default function Data() {
  const me = useMe()
  const isOwner = me?.person?.role === 'owner'
  const custody = useCustody(isOwner)
  const { asked, sending, errand, busy, looked, ...act } = useCopying(custody)
  if (!isOwner)
    return (
      <Sections here="data">
        <Empty title="Copies are an owner’s work">
          An owner makes copies of everything, and restores them.
        </Empty>
      </Sections>
    )
  return (
    <Sections here="data">
      <div className="grid items-start gap-3 md:grid-cols-[1fr_20rem]">
        <Card className="p-5" label="Copies">
          <div className="flex flex-wrap items-start justify-between gap-x-6 gap-y-2">
            <div className="min-w-0 flex-1 basis-72">
              <h2 className="text-title">Copies of everything</h2>
              <p className="text-quiet">
                Made at the start and once a day, read back each time; those of a week are kept, then one a
                week for a quarter. What you make by hand stays until you delete it.
              </p>
            </div>
            <Button kind="primary" disabled={busy} onClick={() => void act.begin(makeCopy)}>
              Make a copy now
            </Button>
          </div>
          {custody?.trouble && (
            <p role="alert" className="mt-2 font-medium text-accent">
              {custody.trouble}
            </p>
          )}
          <HowFar sending={sending} errand={errand}>
            {looked && !busy && errand?.kind === 'merge' && errand.state === 'done' && (
              <div className="mt-3 flex gap-2">
                <Button
                  kind="primary"
                  onClick={() => {
                    act.setLooked(undefined)
                    void act.send('merge', looked)
                  }}
                >
                  Bring it in
                </Button>
                <Button onClick={() => (act.setLooked(undefined), act.setErrandId(undefined))}>
                  Leave it
                </Button>
              </div>
            )}
          </HowFar>
          <Copies copies={custody?.copies} busy={busy} onRestore={(copy) => void act.look({ copy })} />
        </Card>
        {custody && <Where custody={custody} />}
        <div className="grid items-start gap-3 sm:grid-cols-2 md:col-start-1">
          <FromFile
            title="Restore from a file"
            label="Package to restore"
            busy={busy}
            onFile={(file) => void act.look({ file })}
          >
            A copy of this or another machine, of this or an earlier version. It is checked first; it comes in
            whole, or not at all.
          </FromFile>
          <FromFile
            title="Bring in somebody’s trial"
            label="Package to bring in"
            busy={busy}
            onFile={(file) => {
              act.setLooked(file)
              void act.send('look', file)
            }}
          >
            A trial as another reviewer handed it on (Readout, Throws, Package), beside your own. You see what
            would come, and what stands against it, before anything is kept.
          </FromFile>
        </div>
      </div>
      {asked && (
        <Sure
          asked={asked}
          onClose={() => act.setAsked(undefined)}
          onSure={(take) => {
            act.setAsked(undefined)
            void (asked.file
              ? act.send('restore', asked.file, take)
              : act.begin(() => restoreCopy(asked.copy!.name, take)))
          }}
          onBeside={() => {
            act.setAsked(undefined)
            act.setLooked(asked.file)
            void act.send('look', asked.file!)
          }}
        />
      )}
    </Sections>
  )
}

interface Asked {
  readonly copy?: Copy
  readonly file?: File
  /** What it says otherwise of who may do what, and of what is public. */
  readonly standing?: readonly CopyStanding[]
  /** Why it cannot be restored. */
  readonly wrong?: string
}
interface Sending {
  readonly share: number
  readonly stop: AbortController
}

/** How far what is under way is; what came of it, when it is over. */
function HowFar({
  sending,
  errand,
  children,
}: {
  sending: Sending | undefined
  errand: Errand | undefined
  /** What can be done about it. */
  children: ReactNode
}) {
  const under = sending
    ? { stage: 'sending', share: sending.share, cancel: () => sending.stop.abort() }
    : errand && isOpen(errand)
      ? {
          stage: errand.stage || (errand.state === 'waiting' ? 'waiting for its turn' : 'beginning'),
          share: errand.total === 0 ? 0 : errand.done / errand.total,
          cancel: () => void cancelErrand(errand.id).catch((e: Error) => sayWrong(e.message)),
        }
      : undefined
  if (under)
    return (
      <div className="mt-3 flex items-center gap-3" role="status">
        <label className="min-w-0 flex-1">
          <span className="block text-note text-quiet">
            {under.stage}, <span className="figure">{Math.round(100 * under.share)} %</span>
          </span>
          <progress className="h-2.5 w-full accent-water" value={under.share} max={1} />
        </label>
        <Button onClick={under.cancel}>Cancel</Button>
      </div>
    )
  if (!errand) return null
  return (
    <div role={errand.state === 'failed' ? 'alert' : 'status'} className="mt-3 rounded-lg bg-tint p-3">
      <p className="font-medium">{errand.said}</p>
      {errand.problems.length > 0 && (
        <ul className="mt-1 list-disc pl-5 text-note">
          {errand.problems.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </ul>
      )}
      {children}
    </div>
  )
}

function Copies({
  copies,
  busy,
  onRestore,
}: {
  copies: readonly Copy[] | undefined
  busy: boolean
  onRestore: (copy: Copy) => void
}) {
  if (!copies) return null
  if (copies.length === 0) return <p className="mt-3 text-quiet">No copy has been made yet.</p>
  return (
    <ul className="mt-3">
      {copies.map((copy) => {
        const at = new Date(copy.at)
        const named = format(at, 'd MMMM yyyy, HH:mm')
        return (
          <li
            key={copy.name}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule py-2"
          >
            <span className="min-w-48 flex-1">
              <span className="block font-medium">{named}</span>
              <span className="block text-note text-quiet">
                {copy.why === 'daily' ? '' : `${COPY_WORDS[copy.why]}, `}
                {count(copy.throws, 'throw')}, {megabytes(copy.bytes)}
              </span>
            </span>
            <a
              href={`/api/copies/${copy.name}`}
              download={copy.name}
              aria-label={`Download the copy of ${named}`}
              className={buttonLook('plain')}
            >
              <Download size={16} aria-hidden /> Download
            </a>
            <Button
              disabled={busy}
              aria-label={`Restore the copy of ${named}`}
              onClick={() => onRestore(copy)}
            >
              Restore
            </Button>
            <Button
              kind="quiet"
              disabled={busy}
              aria-label={`Delete the copy of ${named}`}
              onClick={() =>
                void dropCopy(copy.name).then(
                  () => say('The copy was deleted.'),
                  (e: Error) => sayWrong(e.message),
                )
              }
            >
              Delete
            </Button>
          </li>
        )
      })}
    </ul>
  )
}

/** Where the data are, how large, and when they were copied last. */
function Where({ custody: { database, folder, copies, room } }: { custody: Custody }) {
  const last = copies[0]
  const free = room.find((r) => r.what === 'database') ?? room[0]
  const full = room.filter((r) => r.missingBytes > 0)
  const rows: [string, string][] = [
    ['Holds', `${count(database.throws, 'throw')}, ${megabytes(database.bytes)}`],
    ['Last copied', last ? `${formatDistanceToNowStrict(new Date(last.at))} ago` : 'never'],
    ['Database', `PostgreSQL ${database.version}, ${database.builtIn ? 'its own' : 'one you named'}`],
    ['At', database.at],
    ...(folder === null ? [] : ([['Folder', folder]] as [string, string][])),
    ...(free === undefined ? [] : ([['Free', megabytes(free.freeBytes)]] as [string, string][])),
  ]
  return (
    <Card className="p-5" label="Where the data are">
      <h2 className="mb-2 text-title">Where the data are</h2>
      {full.map((r) => (
        <p key={r.what} role="alert" className="mb-2 font-medium text-accent">
          {megabytes(r.missingBytes)} are missing in {r.folder}
          {r.what === 'database' ? ': nothing can be stored until there is room.' : ' for another copy.'}
        </p>
      ))}
      <dl className="grid grid-cols-[6rem_1fr] gap-y-1">
        {rows.map(([what, is]) => (
          <div key={what} className="contents">
            <dt className="text-quiet">{what}</dt>
            <dd className="min-w-0 break-words">{is}</dd>
          </div>
        ))}
      </dl>
    </Card>
  )
}

function FromFile({
  title,
  label,
  busy,
  onFile,
  children,
}: {
  title: string
  label: string
  busy: boolean
  onFile: (file: File) => void
  children: ReactNode
}) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <Card className="p-5" label={title}>
      <h2 className="text-title">{title}</h2>
      <p className="mt-1 text-quiet">{children}</p>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) onFile(file)
        }}
      />
      <Button className="mt-3" disabled={busy} onClick={() => input.current?.click()}>
        Choose a file
      </Button>
    </Card>
  )
}

function Sure({
  asked,
  onClose,
  onSure,
  onBeside,
}: {
  asked: Asked
  onClose: () => void
  /** With the ids of what is to stand as in the package. */
  onSure: (take: readonly string[]) => void
  /** Brings a file in beside what is here instead. */
  onBeside: () => void
}) {
  const [take, setTake] = useState<ReadonlySet<string>>(new Set())
  const what = asked.file
    ? `the file ${asked.file.name}`
    : `the copy of ${format(new Date(asked.copy!.at), 'd MMMM yyyy, HH:mm')}`
  if (asked.wrong !== undefined)
    return (
      <Dialog open onClose={onClose} title="This cannot be restored">
        <p>{asked.wrong}</p>
        <div className="mt-4 flex gap-2">
          {asked.file && asked.wrong.includes('one trial') && (
            <Button kind="primary" onClick={onBeside}>
              See what it would bring in
            </Button>
          )}
          <Button onClick={onClose}>Close</Button>
        </div>
      </Dialog>
    )
  const flip = (id: string) => {
    const next = new Set(take)
    if (!next.delete(id)) next.add(id)
    setTake(next)
  }
  return (
    <Dialog open onClose={onClose} title="Put it in the place of everything here?">
      <p>
        Whatever is here now gives way to {what}. A copy of what is here is made before, so that you can come
        back to it. Who comes in, with what, what they may do, and what is public stay as they are here.
      </p>
      {asked.standing && asked.standing.length > 0 && (
        <fieldset className="mt-3 rounded-lg border border-rule p-3">
          <legend className="px-1 font-medium">Otherwise there: tick what you want as it was</legend>
          <ul className="max-h-64 overflow-y-auto">
            {asked.standing.map((s) => (
              <li key={s.id}>
                <label className="flex min-h-10 items-center gap-2.5">
                  <input
                    type="checkbox"
                    className="size-5 accent-water"
                    checked={take.has(s.id)}
                    onChange={() => flip(s.id)}
                  />
                  <span>
                    <span className="font-medium">{s.name}</span>
                    <span className="text-quiet">
                      : {s.here} here, {s.there} there
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        </fieldset>
      )}
      <div className="mt-4 flex gap-2">
        <Button kind="primary" onClick={() => onSure([...take])}>
          Restore
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  )
}
