import clsx from 'clsx'
import type { Plan, Trial } from '../../../contract/trials.ts'
import { withCode } from '../../../contract/naming.ts'
import { throwWords } from './RunOrder.tsx'

interface PlanSheetProps {
  readonly trial: Trial
  readonly plan: Plan
  readonly nameOf: (id: string) => string
  readonly codeOf: (id: string) => string
  readonly lengthUnit: string
  readonly speedUnit: string
  /** Places in the plan of the throws already made, which need no paper. */
  readonly done: ReadonlySet<number>
}

/** Rows of a column that fit a page with its head and foot. */
const ROWS = 36
/** What a page has left for the rows of a column, mm; and how high a row may be: a pencil needs room, and no more than that. */
const ROOM_MM = 214
const HIGHEST_MM = 8.5

/** The plan on paper: one page, every throw in its order with room for a pencil. Seen only in print. */
export function PlanSheet({ trial, plan, nameOf, codeOf, lengthUnit, speedUnit, done }: PlanSheetProps) {
  // as many columns as it takes to fit a page
  const numbered = plan.throws.map((t, i) => ({ ...t, i })).filter((t) => !done.has(t.i))
  const columns = Math.max(1, Math.ceil(numbered.length / ROWS))
  const each = Math.ceil(numbered.length / columns)
  const rowMm = Math.min(HIGHEST_MM, ROOM_MM / (each + 1))
  const widths = columns < 3 ? [13, 13, 10, 15] : [9, 9, 7, 5]
  return (
    <section aria-label="Plan sheet" className="hidden text-black print:block">
      <h1 className="text-[14pt] font-bold">{trial.name}</h1>
      <p className="text-[9pt]">
        {trial.question} · day ________ place ______________ air ____ °C · wind ______ · thrown by
        ______________
      </p>
      {plan.warmUps.length > 0 && done.size === 0 && (
        <p className="mt-1 text-[8.5pt]">
          Warm up first, not counted: {plan.warmUps.map((id) => `${codeOf(id)} ☐`).join('  ')}
        </p>
      )}
      <div className="mt-2 flex gap-4">
        {Array.from({ length: columns }, (_, c) => numbered.slice(c * each, (c + 1) * each))
          .filter((list) => list.length > 0)
          .map((list) => (
            <table
              key={list[0]!.i}
              className={clsx(
                'flex-1 border-collapse leading-none',
                columns < 3 ? 'text-[8.5pt]' : 'text-[7pt]',
              )}
            >
              <thead>
                <tr className="text-left">
                  {[
                    '',
                    'disc',
                    'release',
                    `down ${lengthUnit}`,
                    `side ${lengthUnit}`,
                    `wind ${speedUnit}`,
                    'seen',
                  ].map((h) => (
                    <th key={h} className="border-b border-black px-1 py-1 font-semibold">
                      {h}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {list.map((t, k) => (
                  <tr
                    key={t.i}
                    style={{ height: `${rowMm}mm` }}
                    className={
                      k > 0 && list[k - 1]!.round !== t.round
                        ? 'border-t-2 border-black'
                        : 'border-t border-gray-400'
                    }
                  >
                    <td className="px-1 whitespace-nowrap">
                      {t.i + 1} {t.leg === 'out' ? '→' : '←'}
                    </td>
                    <td className="px-1 whitespace-nowrap">
                      {columns < 3 ? withCode(codeOf(t.discId), nameOf(t.discId)) : codeOf(t.discId)}
                    </td>
                    <td className="px-1 whitespace-nowrap">{throwWords(t, plan)}</td>
                    {widths.map((mm, k) => (
                      <td key={k} style={{ width: `${mm}mm` }} className="border-l border-gray-400" />
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
      </div>
      <p className="mt-2 text-[8pt]">
        Throw only when the range is clear and stays clear. → out into the wind, ← back with it. Side: L or R
        of the aim line as you look down it. Wind: into your face, −3 from behind; blank is as at the head of
        the page. Cross out a throw that does not count and say why.
      </p>
    </section>
  )
}
