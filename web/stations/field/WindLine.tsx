import type { Throw } from '../../../contract/trials.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import type { FieldStanding } from './draft.ts'
import { windBefore, windSaid, windSince } from './windOf.ts'

interface WindLineProps {
  readonly throws: readonly Throw[]
  readonly standing: FieldStanding
  /** The anemometer gives it. */
  readonly listening: boolean
  /** Its figures stand open to be changed. */
  readonly open: boolean
  readonly onOpen: (open: boolean) => void
  readonly onStanding: (change: Partial<FieldStanding>) => void
  readonly onTurn: () => void
}

/** On a phone, above the field: which wind the next throw is kept with, since when, and the taps that change it. */
export function WindLine({ throws, standing, listening, open, onOpen, onStanding, onTurn }: WindLineProps) {
  const units = useUnits()
  const said = windSaid(standing, units)
  const before = said === undefined ? windBefore(throws, standing.leg) : undefined
  return (
    <div role="group" aria-label="Wind now" className="order-2 flex items-center gap-2 px-3 desk:hidden">
      <p className="min-w-0 flex-1 leading-tight">
        <span className="text-note text-quiet">Wind </span>
        {listening ? (
          'from the anemometer'
        ) : said === undefined ? (
          <>
            <strong className="whitespace-nowrap text-accent">not noted</strong>
            {before && (
              <span className="block text-note text-quiet">
                before: {windSaid({ ...standing, ...before }, units)}
              </span>
            )}
          </>
        ) : (
          <>
            <span className="figure">{said}</span>{' '}
            <span className="text-note whitespace-nowrap text-quiet">
              since{' '}
              {windSince(
                throws.filter((t) => t.sessionId === standing.sessionId),
                standing,
              )}
            </span>
          </>
        )}
      </p>
      {said !== undefined && !listening && (
        <Button className="min-h-11 !px-3" onClick={onTurn}>
          Turn
        </Button>
      )}
      {before && (
        <Button className="min-h-11 !px-3" onClick={() => onStanding(before)}>
          As before
        </Button>
      )}
      <Button className="min-h-11 !px-3" aria-expanded={open} onClick={() => onOpen(!open)}>
        {open ? 'Done' : said === undefined ? 'Note it' : 'Change'}
      </Button>
    </div>
  )
}
