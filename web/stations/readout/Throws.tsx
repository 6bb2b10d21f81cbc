import { isSimulated } from '../../../core/throw/simulated.ts'
import clsx from 'clsx'
import { format } from 'date-fns'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import type { Outcome } from '../../../core/rating/outcome.ts'
import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import type { Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aimedWords, angleWords, aside, figure, powerWords, windWords } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { Offered } from '../../parts/Offered.tsx'
import { say } from '../../data/say.ts'
import { StationLink } from '../../parts/StationLink.tsx'
import { History } from './History.tsx'
import { looksById } from '../../strip/hues.ts'

type Which = 'all' | 'left-out' | 'taken-back'

/** Below this pull a throw is said to fit nothing. */
const DOUBTFUL = 0.5

/** What is said of a throw; on a phone only what matters there. */
const COLUMNS: readonly { readonly name: string; readonly desk?: true }[] = [
  { name: '#' },
  { name: 'Disc' },
  { name: 'Thrown by', desk: true },
  { name: 'Meant, called', desk: true },
  { name: 'Wind', desk: true },
  { name: 'Landed' },
  { name: 'Against its forecast', desk: true },
  { name: 'Pull' },
  { name: 'Actions' },
]

/** Every throw with what the fit makes of it; nothing is erased, only left out or taken back. */
export function Throws({
  view,
  outcome,
  name,
  onWithout,
}: {
  view: TrialView
  outcome: Outcome
  name: (code: string) => string
  /** Somebody wants to know what would be without a throw. */
  onWithout: (thrown: Throw, number: number) => void
}) {
  const [asked, setAsked] = useState<Throw>()
  const [params, setParams] = useSearchParams()
  const which = (params.get('throws') ?? 'all') as Which
  const leftOut = view.throws.filter((t) => !t.counts)
  const rows = which === 'left-out' ? leftOut : which === 'taken-back' ? view.takenBack : view.throws
  const told = new Map(outcome.throws.map((t) => [t.throw, t]))
  const number = new Map(view.throws.map((t, i) => [t.id, i + 1]))

  const put = (row: Throw) => outbox.put('throws', row)
  const takeBack = async (row: Throw) => {
    await put({ ...row, takenBackAt: new Date().toISOString() })
    say('Throw taken back.', { label: 'Restore', run: () => void put({ ...row, takenBackAt: null }) })
  }
  return (
    <>
      <Choice
        label="Throws shown"
        className="mb-2"
        value={which}
        onChange={(v) =>
          setParams((p) => (v === 'all' ? p.delete('throws') : p.set('throws', v), p), { replace: true })
        }
        options={[
          { value: 'all', label: `All ${view.throws.length}` },
          { value: 'left-out', label: `Left out ${leftOut.length}` },
          { value: 'taken-back', label: `Taken back ${view.takenBack.length}` },
        ]}
      />
      <div
        className="max-h-[30rem] overflow-auto rounded-lg border border-rule"
        tabIndex={0}
        role="region"
        aria-label="List of throws"
      >
        <table className="w-full text-left">
          <thead className="sticky top-0 z-10 bg-tint text-note">
            <tr>
              {COLUMNS.map(({ name: h, desk }) => (
                <th
                  key={h}
                  data-about={h === 'Actions' ? 'view' : undefined}
                  className={clsx('px-2 py-2 font-medium', desk && 'max-lg:hidden')}
                >
                  {h === 'Actions' ? <span className="sr-only">{h}</span> : h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((t) => (
              <Row
                key={t.id}
                thrown={t}
                {...{ view, name }}
                number={number.get(t.id)}
                told={told.get(t.id)}
                onWithout={() => onWithout(t, number.get(t.id)!)}
                onTakeBack={() => void takeBack(t)}
                onRestore={() => void put({ ...t, takenBackAt: null })}
                onHistory={() => setAsked(t)}
              />
            ))}
            {rows.length === 0 && (
              <tr>
                <td colSpan={COLUMNS.length} className="px-3 py-6 text-center text-quiet">
                  {which === 'left-out' ? 'Every throw counts.' : 'No throw was taken back.'}
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-note text-quiet">
        The forecast is for a release like this thrower’s usual one in the wind that was logged. Pull is a
        throw’s share in the numbers: well below 1 it fits nothing else. A throw’s number says who logged and
        changed it.
      </p>
      <Offered
        kind="throws"
        ids={[...view.throws, ...view.takenBack].map((t) => t.id)}
        className="mt-3 p-4"
      />
      {asked && <History thrown={asked} number={number.get(asked.id)} onClose={() => setAsked(undefined)} />}
    </>
  )
}

interface RowProps {
  readonly view: TrialView
  readonly name: (code: string) => string
  readonly thrown: Throw
  readonly number: number | undefined
  /** What the fit makes of it. */
  readonly told: Outcome['throws'][number] | undefined
  readonly onWithout: () => void
  readonly onTakeBack: () => void
  readonly onRestore: () => void
  /** Somebody wants to know who wrote it. */
  readonly onHistory: () => void
}

function Row({ view, name, thrown: t, number, told, onWithout, onTakeBack, onRestore, onHistory }: RowProps) {
  const units = useUnits()
  const code = view.discs.find((d) => d.disc.id === t.discId)?.disc.code ?? '?'
  const thrower = view.throwers.find((x) => x.id === t.throwerId)
  const back = t.takenBackAt !== null
  const cell = 'px-2 py-1.5'
  return (
    <tr className={clsx('border-t border-rule', !t.counts && 'text-quiet')}>
      <td className="figure p-0.5" title={format(new Date(t.thrownAt), 'd MMM yyyy, HH:mm')}>
        <button
          type="button"
          aria-label={`History of throw ${number ?? 'taken back'}`}
          className="min-h-9 min-w-9 rounded-lg underline decoration-edge underline-offset-4 hover:bg-tint max-md:min-h-11 max-md:min-w-11"
          onClick={onHistory}
        >
          {number ?? '–'}
        </button>
      </td>
      <td className={cell}>
        <span className="flex items-center gap-2">
          <DiscDot look={looksById(view.discs)(t.discId)} size={14} /> {name(code)}
        </span>
      </td>
      <td className={clsx(cell, 'max-lg:hidden')}>
        {thrower?.name}
        {t.stroke === 'forehand' && ', forehand'}
      </td>
      <td className={clsx(cell, 'whitespace-nowrap max-lg:hidden')}>
        {[angleWords(t.hyzerDeg), aimedWords(t.aimDeg)].filter(Boolean).join(', ')}
        {t.power !== 1 && `, ${powerWords(t.power)}`}
        {t.hyzerCalledDeg !== null && (
          <span className="block text-note text-quiet">came out {angleWords(t.hyzerCalledDeg)}</span>
        )}
      </td>
      <td className={clsx('figure whitespace-nowrap max-lg:hidden', cell)}>
        {t.windAlongMps === null ? '–' : windWords(t.windAlongMps, units.speed.to)}
      </td>
      <td className={clsx('figure whitespace-nowrap', cell)}>
        {units.length.show(t.carryM)}
        <span className="max-sm:block sm:before:content-[',_']">{aside(units, t.rightM)}</span>
      </td>
      <td className={clsx(cell, 'whitespace-nowrap max-lg:hidden')}>
        {back || !told ? '–' : <Against thrown={t} residual={told.residual} />}
      </td>
      <td className={cell}>
        {back ? (
          'taken back'
        ) : !t.counts ? (
          `left out${t.whyNot ? `: ${t.whyNot}` : ''}`
        ) : (
          <span className={clsx('figure', told && told.weight < DOUBTFUL && 'text-accent')}>
            {told ? figure(told.weight, 1) : '…'}
          </span>
        )}
        {isSimulated(t) && <span className="block text-note text-quiet">simulated</span>}
      </td>
      <td className="px-1 text-right whitespace-nowrap" data-about="view">
        {back ? (
          <Button kind="quiet" className="!px-2" onClick={onRestore}>
            Restore
          </Button>
        ) : (
          <>
            <StationLink
              at="field"
              params={{ trialId: t.trialId }}
              search={`?edit=${t.id}`}
              className={buttonLook('quiet', '!px-2')}
            >
              Edit
            </StationLink>
            {t.counts && (
              <Button kind="quiet" className="!px-2 max-lg:hidden" onClick={onWithout}>
                Without it
              </Button>
            )}
            <Button kind="quiet" className="!px-2" onClick={onTakeBack}>
              Take back
            </Button>
          </>
        )}
      </td>
    </tr>
  )
}

/** How far it landed from where it was expected. */
function Against({
  thrown: t,
  residual,
}: {
  thrown: Throw
  residual: Outcome['throws'][number]['residual']
}) {
  const units = useUnits()
  const right = mirrored(residual.veerM, fadeSign(t.hand, t.stroke))
  return (
    <>
      {units.length.show(Math.abs(residual.carryM))} {residual.carryM >= 0 ? 'long' : 'short'},{' '}
      {aside(units, right)}
    </>
  )
}
