import { useEffect, useState } from 'react'
import type { Pass, SharingNow } from '../../../../contract/crew.ts'
import { openPairing, turnSharing, useKeys, useSharing } from '../../../data/crew.ts'
import { Button } from '../../../parts/Button.tsx'
import { Card } from '../../../parts/Card.tsx'
import { QrCode } from '../../../parts/QrCode.tsx'
import { say, sayWrong } from '../../../data/say.ts'

/** How phones come in: whether they can reach this machine, and what to point them at. */
export function LetIn() {
  const sharing = useSharing(true)
  const [turning, setTurning] = useState(false)
  // what stands below it keeps its place when it is known
  if (!sharing)
    return (
      <Card className="p-5" label="Let a phone in">
        <h2 className="text-title">Let phones in</h2>
        <p className="text-quiet">Seeing how this machine is reached …</p>
      </Card>
    )
  const turn = async (on: boolean) => {
    setTurning(true)
    try {
      const now = await turnSharing(on)
      if (now?.on === false)
        say('Phones cannot reach this machine now. They go on without it, and keep what they log.')
    } catch (e) {
      sayWrong((e as Error).message)
    } finally {
      setTurning(false)
    }
  }
  const here = `https://${location.host}`
  return (
    <Card className="p-5" label="Let a phone in">
      <div className="flex flex-wrap items-start justify-between gap-x-6 gap-y-2">
        <div className="min-w-0 flex-1 basis-80">
          <h2 className="text-title">
            {sharing.on ? 'Phones on this network can come in' : 'Let phones in'}
          </h2>
          <p className="text-quiet">
            {sharing.on
              ? 'A paired phone opens, plans, logs and reads in the field without a network, and sends everything when it is back.'
              : sharing.switchable
                ? 'Only this machine reaches Veer Line now. Let phones on this network in: over HTTPS, and only with a code.'
                : 'How this server is reached is set where it is started.'}
          </p>
        </div>
        {sharing.switchable && (
          <Button
            kind={sharing.on ? 'plain' : 'primary'}
            disabled={turning}
            onClick={() => void turn(!sharing.on)}
          >
            {sharing.on ? 'Keep phones out' : 'Let phones in'}
          </Button>
        )}
      </div>
      {sharing.problem && (
        <p role="alert" className="mt-2 font-medium text-accent">
          {sharing.problem}
        </p>
      )}
      {(sharing.on || (!sharing.switchable && location.protocol === 'https:')) && (
        <Ways sharing={sharing.on ? sharing : { ...sharing, urls: [here] }} />
      )}
    </Card>
  )
}

/** What to point a phone at: once to have it trust the machine, then to pair it. */
function Ways({ sharing: { urls, trustUrl, fingerprint } }: { sharing: SharingNow }) {
  const [at, ...more] = urls
  if (at === undefined) return null
  return (
    <div className="mt-4 grid gap-5 md:grid-cols-2">
      {trustUrl !== null && (
        <section aria-label="Trust" className="flex gap-4 max-sm:flex-col">
          <QrCode text={trustUrl} label={`Code that opens ${trustUrl}`} />
          <div className="min-w-0">
            <h3 className="text-lead">1. Once a phone</h3>
            <p>Have it trust this machine: point its camera here, or open</p>
            <p className="figure break-all">{trustUrl}</p>
            <details className="mt-2 text-note text-quiet">
              <summary className="min-h-8 cursor-pointer">Compare the certificate</summary>
              <p className="font-mono break-all">SHA-256 {fingerprint}</p>
            </details>
          </div>
        </section>
      )}
      <Code at={at} step={trustUrl === null ? '' : '2. '} />
      {more.length > 0 && (
        <p className="text-note text-quiet md:col-span-2">
          Also reached at {more.map((url) => url.replace('https://', '')).join(', ')}
        </p>
      )}
    </div>
  )
}

const timeLeft = (ms: number) => {
  const s = Math.max(0, Math.ceil(ms / 1000))
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`
}

/** A code that pairs one of one’s own devices, as long as it lasts. */
function Code({ at, step }: { at: string; step: string }) {
  const [pass, setPass] = useState<Pass>()
  const [now, setNow] = useState(() => Date.now())
  const keys = useKeys()
  const [before, setBefore] = useState<number>()
  const left = pass ? Date.parse(pass.expiresAt) - now : 0
  const paired = before !== undefined && keys !== undefined && keys.length > before
  useEffect(() => {
    if (!pass) return
    const timer = setInterval(() => setNow(Date.now()), 1000)
    return () => clearInterval(timer)
  }, [pass])
  const open = async () => {
    try {
      setBefore(keys?.length)
      setPass(await openPairing())
      setNow(Date.now())
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const pairUrl = `${at}/pair`
  return (
    <section aria-label="Pair" className="flex gap-4 max-sm:flex-col">
      {pass && left > 0 && !paired ? (
        <QrCode text={`${pairUrl}#${pass.secret}`} label={`Code that pairs a phone at ${pairUrl}`} />
      ) : (
        <div className="grid size-44 shrink-0 place-items-center rounded-lg border border-dashed border-edge p-3 text-center text-quiet">
          {paired ? 'Paired' : pass ? 'This code is over' : 'No code is open'}
        </div>
      )}
      <div className="min-w-0">
        <h3 className="text-lead">{step}Pair your phone</h3>
        {pass && left > 0 && !paired ? (
          <>
            <p>Point its camera here, or open</p>
            <p className="figure break-all">{pairUrl}</p>
            <p className="mt-1">
              and type <span className="font-mono text-title">{pass.secret}</span>
            </p>
            <p className="text-note text-quiet">
              One device, <span className="figure">{timeLeft(left)}</span> left
            </p>
          </>
        ) : (
          <>
            <p>
              {paired
                ? 'The device is in. Another one needs a code of its own.'
                : 'A code lets one device in, within five minutes.'}
            </p>
            <Button kind="primary" className="mt-2" onClick={() => void open()}>
              {pass ? 'Another code' : 'Show a code'}
            </Button>
          </>
        )}
      </div>
    </section>
  )
}
