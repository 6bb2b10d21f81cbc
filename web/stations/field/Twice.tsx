import { at } from '../../../contract/api.ts'
import { useMemo } from 'react'
import { thrownTwice } from '../../../core/plan/twice.ts'
import type { Session, Throw } from '../../../contract/trials.ts'
import { useRead } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { angleWords } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'

interface TwiceProps {
  readonly view: TrialView
  readonly session: Session
  readonly name: (code: string) => string
  readonly className: string
}

/** A throw that two devices made without knowing of each other: both see it, and one can be left out. */
export function Twice({ view, session, name, className }: TwiceProps) {
  const { trial, throws, discs } = view
  const { data: loggers } = useRead(at('GET /api/trials/:id/loggers', { id: trial.id }))
  const pair = useMemo(() => {
    const { plan } = trial
    if (!plan || !loggers) return undefined
    const byOf = new Map(
      loggers.map((l) => [l.throwId, l.device === null ? l.person : `${l.person}, ${l.device}`]),
    )
    const logged = throws
      .filter((t) => t.sessionId === session.id && t.counts)
      .map((t) => ({ ...t, disc: t.discId, at: Date.parse(t.thrownAt), by: byOf.get(t.id) }))
    const planned = plan.throws.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power }))
    return thrownTwice(logged, planned, plan.protocol).at(-1)
  }, [trial, throws, session.id, loggers])
  if (!pair) return null
  const [first, second] = pair
  const code = discs.find((d) => d.disc.id === first.discId)?.disc.code ?? ''
  const leaveOut = (id: string) => {
    const row = throws.find((t) => t.id === id)
    if (row) void outbox.put('throws', { ...row, counts: false, whyNot: 'thrown twice' } satisfies Throw)
  }
  return (
    <div role="status" className={className}>
      <span className="min-w-40 flex-1">
        <strong>
          {name(code)} {angleWords(first.hyzerDeg)} was thrown twice
        </strong>
        , by {first.by} and by {second.by}. That is once more than the plan wanted; both count.
      </span>
      <Button onClick={() => leaveOut(second.id)}>Leave the second out</Button>
    </div>
  )
}
