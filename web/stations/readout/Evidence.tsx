import clsx from 'clsx'
import { ClaimEvidence } from '../../charts/ClaimEvidence.tsx'
import type { TrialView } from '../../data/hooks.ts'
import { halves, numbersLine } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { hueOf } from '../../strip/hues.ts'
import type { Reading } from '../../../core/trial/reading.ts'

interface EvidenceProps {
  readonly view: TrialView
  readonly reading: Reading
  readonly picked: string | undefined
  readonly onPick: (code: string | undefined) => void
  readonly name: (code: string) => string
  readonly look: (code: string) => number
}

/** Every published number beside what the throws say of it, disc by disc. */
export function EvidenceCard({ view, reading, picked, onPick, name, look }: EvidenceProps) {
  const { trial } = view
  const byStability = [...reading.outcome.discs].sort((a, b) => b.side.value - a.side.value)
  return (
    <Card className="overflow-x-auto px-4 py-2" label="Claim and evidence">
      <table className="w-full text-left md:min-w-[40rem]">
        <thead className="text-note text-quiet">
          <tr>
            <th className="py-1.5 font-normal">Disc</th>
            <th className="px-2 text-right font-normal max-md:hidden">Throws</th>
            <th className="font-normal md:px-3">Glide</th>
            <th className="font-normal md:px-3">Turn</th>
            <th className="font-normal md:px-3">Fade</th>
            <th className="font-normal max-md:hidden">
              <span className="sr-only">Published numbers and </span>Label → reads as
            </th>
          </tr>
        </thead>
        <tbody>
          {byStability.map((d) => {
            const shelved = view.discs.find((s) => s.disc.code === d.disc)!
            const hue = hueOf(look(d.disc))
            const cell = (key: 'glide' | 'turn' | 'fade') => (
              <td className="px-0.5 max-md:w-[21%] md:px-2">
                <ClaimEvidence
                  what={`${name(d.disc)}, ${key}`}
                  published={d.published[key]}
                  observed={d.observed[key]}
                  sd={d.sd[key]}
                  hue={hue}
                />
              </td>
            )
            const read = {
              ...d.observed,
              glide: halves(d.observed.glide),
              turn: halves(d.observed.turn),
              fade: halves(d.observed.fade),
            }
            return (
              <tr
                key={d.disc}
                className={clsx('border-t border-rule', picked === d.disc && 'bg-tint')}
                onMouseEnter={() => onPick(d.disc)}
                onMouseLeave={() => onPick(undefined)}
              >
                <th scope="row" className="py-1 font-normal">
                  <StationLink
                    at="shelf/disc"
                    params={{ discId: shelved.disc.id }}
                    className="flex items-center gap-2.5"
                    onFocus={() => onPick(d.disc)}
                    onBlur={() => onPick(undefined)}
                  >
                    <DiscDot look={look(d.disc)} />
                    <span>
                      <span className="font-semibold">{name(d.disc)}</span>
                      <span className="figure block text-note text-quiet">
                        {d.disc}
                        {shelved.disc.id === trial.controlDiscId && (
                          <>
                            <span className="max-md:hidden"> · </span>
                            <span className="max-md:block">control</span>
                          </>
                        )}
                      </span>
                    </span>
                  </StationLink>
                </th>
                <td className="figure px-2 text-right max-md:hidden">{d.throws}</td>
                {cell('glide')}
                {cell('turn')}
                {cell('fade')}
                <td className="figure whitespace-nowrap max-md:hidden">
                  <span className="block text-note text-quiet">{numbersLine(d.published)}</span>
                  {numbersLine(read)}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="border-t border-rule py-1.5 text-note text-quiet">
        Single numbers are less sure than where a disc flies: less glide with less fade flies much as more
        glide with more fade, so throws settle the flight long before they settle either.
      </p>
    </Card>
  )
}
