import clsx from 'clsx'
import { format } from 'date-fns'
import { useSearchParams } from 'react-router'
import type { Outcome } from '../../../core/rating/outcome.ts'
import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import type { Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, aside, figure } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { say } from '../../parts/Toasts.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

type Which = 'all' | 'left-out' | 'taken-back'

/** Below this weight a throw is said to fit nothing. */
const DOUBTFUL = 0.5

/** Every throw with what the fit makes of it; nothing is erased, only left out or taken back. */
export function Throws({
  view,
  outcome,
  name,
}: {
  view: TrialView
  outcome: Outcome
  name: (code: string) => string
}) {
  const units = useUnits()
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
  const against = (t: Throw) => {
    const o = told.get(t.id)
    if (!o) return '–'
    const right = mirrored(o.residual.veerM, fadeSign(t.hand, t.stroke))
    const along = `${units.length.show(Math.abs(o.residual.carryM))} ${o.residual.carryM >= 0 ? 'long' : 'short'}`
    return `${along}, ${aside(units, right)}`
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
        <table className="w-full min-w-[56rem] text-left">
          <thead className="sticky top-0 z-10 bg-tint text-note">
            <tr>
              {[
                '#',
                'Disc',
                'Thrown by',
                'Meant',
                'Called',
                'Wind',
                'Landed',
                'Against its forecast',
                'Weight',
                '',
              ].map((h) => (
                <th key={h} className="px-3 py-2 font-medium">
                  {h === '' ? <span className="sr-only">Actions</span> : h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((t) => {
              const at = view.discs.findIndex((d) => d.disc.id === t.discId)
              const code = view.discs[at]?.disc.code ?? '?'
              const thrower = view.throwers.find((x) => x.id === t.throwerId)
              const weight = told.get(t.id)?.weight
              return (
                <tr key={t.id} className={clsx('border-t border-rule', !t.counts && 'text-quiet')}>
                  <td
                    className="figure px-3 py-1.5"
                    title={format(new Date(t.thrownAt), 'd MMM yyyy, HH:mm')}
                  >
                    {number.get(t.id) ?? '–'}
                  </td>
                  <td className="px-3">
                    <span className="flex items-center gap-2">
                      <DiscDot place={at} size={14} /> {name(code)}
                    </span>
                  </td>
                  <td className="px-3">
                    {thrower?.name}
                    {t.stroke === 'forehand' && ', forehand'}
                  </td>
                  <td className="px-3 whitespace-nowrap">
                    {angleWords(t.hyzerDeg)}
                    {t.power !== 1 && `, ${Math.round(100 * t.power)} %`}
                  </td>
                  <td className="px-3 whitespace-nowrap">
                    {t.hyzerCalledDeg === null ? '–' : angleWords(t.hyzerCalledDeg)}
                  </td>
                  <td className="figure px-3 whitespace-nowrap">
                    {t.windAlongMps === null ? '–' : windWords(t.windAlongMps, units.speed.to)}
                  </td>
                  <td className="figure px-3 whitespace-nowrap">
                    {units.length.show(t.carryM)}, {aside(units, t.rightM)}
                  </td>
                  <td className="px-3 whitespace-nowrap">{t.takenBackAt === null ? against(t) : '–'}</td>
                  <td className="px-3 whitespace-nowrap">
                    {t.takenBackAt !== null ? (
                      'taken back'
                    ) : !t.counts ? (
                      `left out${t.whyNot ? `: ${t.whyNot}` : ''}`
                    ) : (
                      <span
                        className={clsx('figure', weight !== undefined && weight < DOUBTFUL && 'text-accent')}
                      >
                        {weight === undefined ? '…' : figure(weight, 1)}
                      </span>
                    )}
                  </td>
                  <td className="px-1 text-right whitespace-nowrap">
                    {t.takenBackAt === null ? (
                      <>
                        <StationLink
                          at="field"
                          params={{ trialId: t.trialId }}
                          search={`?edit=${t.id}`}
                          className={buttonLook('quiet', '!px-2')}
                        >
                          Edit
                        </StationLink>
                        <Button kind="quiet" className="!px-2" onClick={() => void takeBack(t)}>
                          Take back
                        </Button>
                      </>
                    ) : (
                      <Button kind="quiet" onClick={() => void put({ ...t, takenBackAt: null })}>
                        Restore
                      </Button>
                    )}
                  </td>
                </tr>
              )
            })}
            {rows.length === 0 && (
              <tr>
                <td colSpan={10} className="px-3 py-6 text-center text-quiet">
                  {which === 'left-out' ? 'Every throw counts.' : 'No throw was taken back.'}
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-note text-quiet">
        The forecast is for a release like this thrower’s usual one in the wind that was logged. A weight well
        below 1 marks a throw that fits nothing else; it pulls little.
      </p>
    </>
  )
}

const windWords = (alongMps: number, to: (v: number) => number) =>
  `${figure(Math.abs(to(alongMps)), 1)} ${alongMps < 0 ? 'head' : 'tail'}`
