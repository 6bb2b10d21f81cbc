import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import { pairOf } from '../../../core/rating/outcome.ts'
import { PER_M } from '../../../core/flight/side.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import { farther } from '../../../core/judge/statements.ts'
import type { Judged } from '../../../core/review/judged.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, aside, percent } from '../../data/units.ts'
import { Heads } from '../../parts/Heads.tsx'
import { claimKey } from './editor/claimMarks.ts'
import type { MarkedClaim } from './editor/claimMarks.ts'
import { useSources } from './sources.tsx'

interface EvidenceProps {
  readonly claims: readonly MarkedClaim[]
  readonly judged: ReadonlyMap<string, Judged>
}

/** Under a section, each claim of it with what stands behind: how sure, the difference with its interval, the throws. */
export function EvidencePanel({ claims, judged }: EvidenceProps) {
  const once = [...new Map(claims.map((c) => [claimKey(c), c])).values()]
  return once.map((c) => <One key={claimKey(c)} claim={c} judged={judged.get(claimKey(c))} />)
}

function One({ claim: { claim, trial, text }, judged }: { claim: MarkedClaim; judged: Judged | undefined }) {
  const units = useUnits()
  const source = useSources().get(trial)
  if (!source || judged?.probability === undefined) return null
  const { view, reading, name } = source
  const { outcome } = reading
  const codes = 'than' in claim ? [claim.disc, claim.than] : [claim.disc]
  const ids = new Map(view.discs.map((d) => [d.disc.id, d.disc.code]))
  const thrown = view.throws.filter((t) => t.counts && codes.includes(ids.get(t.discId) ?? ''))
  const pair = 'than' in claim ? pairOf(outcome, claim.disc, claim.than) : undefined
  const sign = pair?.a === claim.disc ? 1 : -1
  const finish = pair && { value: sign * pair.finish.value, sd: pair.finish.sd }
  const { length } = units
  const weights = new Map(outcome.throws.map((t) => [t.throw, t]))
  return (
    <details className="my-2 rounded-lg border border-rule px-3 py-1">
      <summary className="cursor-pointer font-semibold">
        Why: {text} (
        {judged.verdict === 'contradicted'
          ? `contradicted, ${percent(1 - judged.probability)} against it`
          : `${judged.verdict === 'carried' ? '' : `${judged.verdict}, `}${percent(judged.probability)}`}
        )
      </summary>
      {finish && (
        <p>
          It finishes {length.show(Math.abs(finish.value))} (
          {length.to(Math.abs(finish.value) - Z90 * finish.sd).toFixed(1)} to{' '}
          {length.to(Math.abs(finish.value) + Z90 * finish.sd).toFixed(1)}){' '}
          {farther(outcome.fadeSide, finish.value >= 0)} in a flight of {length.show(PER_M, 0)}; nine times in
          ten the difference lies in that range.
        </p>
      )}
      <p>
        From {thrown.length} counted throws, with release angle, power, wind and air taken out of each, and
        all throws of the trial weighed together:
      </p>
      <table className="w-full text-left">
        <Heads names={['Throw', 'landed', 'its numbers say', 'weight']} />
        <tbody>
          {thrown.map((t) => {
            const told = weights.get(t.id)
            return (
              <tr key={t.id} className="border-t border-rule">
                <th scope="row" className="font-normal">
                  {name(ids.get(t.discId)!)}, {angleWords(t.hyzerDeg)}
                </th>
                <td className="px-2 text-right">
                  {length.show(t.carryM)}, {aside(units, t.rightM)}
                </td>
                <td className="px-2 text-right">
                  {told &&
                    `${length.show(told.expected.carryM)}, ${aside(units, mirrored(told.expected.veerM, fadeSign(t.hand, t.stroke)))}`}
                </td>
                <td className="px-2 text-right">{told?.weight.toFixed(1)}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="text-note text-quiet">
        What its numbers say is where it would have landed with this arm’s usual release in the logged wind; a
        throw that fits nothing weighs little.
      </p>
    </details>
  )
}
