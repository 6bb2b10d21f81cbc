import clsx from 'clsx'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { differenceInCalendarDays, format } from 'date-fns'
import { Fragment } from 'react'
import type { ReactNode } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { hedgedStability, stabilityWord } from '../../../core/judge/words.ts'
import { stabilityOf } from '../../../contract/shelfPage.ts'
import type { SHELF_SORTS, ShelfRow } from '../../../contract/shelfPage.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { ClaimEvidence } from '../../charts/ClaimEvidence.tsx'
import { LEVEL_WORDS } from '../../data/naming.ts'
import { figure, numbersLine } from '../../data/units.ts'
import { hueOf } from '../../strip/hues.ts'
import { WearCell, WeightCell } from './cells.tsx'

export type TableRow = ShelfRow & ShelvedDisc

interface Column {
  readonly sort: (typeof SHELF_SORTS)[number]
  readonly header: string
  readonly cell: (r: TableRow) => ReactNode
  readonly className?: string
}

const daysAgo = (at: string) => {
  const days = differenceInCalendarDays(new Date(), new Date(at))
  return days <= 0
    ? 'today'
    : days === 1
      ? 'yesterday'
      : days < 60
        ? `${days} days ago`
        : format(at, 'MMM yyyy')
}

const COLUMNS: readonly Column[] = [
  {
    sort: 'code',
    header: 'Disc',
    cell: (r) => (
      <>
        <Link to={`/shelf/${r.disc.id}`} className="block font-semibold underline-offset-4 hover:underline">
          <span className="figure mr-2.5 font-normal whitespace-nowrap">{r.disc.code}</span>
          {r.plastic.name}
        </Link>
        {r.run && <span className="block truncate text-note text-quiet">{r.run.name}</span>}
      </>
    ),
  },
  {
    sort: 'numbers',
    header: 'In force',
    className: 'max-md:hidden',
    cell: (r) => (
      <>
        <span className="figure whitespace-nowrap">{numbersLine(r.inForce.numbers)}</span>
        {r.inForce.level !== 'mold' && (
          <span className="block text-note text-quiet">{LEVEL_WORDS[r.inForce.level]}</span>
        )}
      </>
    ),
  },
  {
    sort: 'stability',
    header: 'Turn + fade, claim and evidence',
    cell: (r) => {
      const claim = r.inForce.numbers.turn + r.inForce.numbers.fade
      if (!r.rating || r.throws === 0)
        return <span className="text-quiet">{stabilityWord(claim)}, by its numbers</span>
      const s = stabilityOf(r.rating)
      return (
        <span className="flex items-center gap-3">
          <ClaimEvidence
            what={`Turn and fade of ${r.disc.code}`}
            published={claim}
            observed={s.value}
            sd={s.sd}
            hue={hueOf(0)}
          />
          <span className="figure w-10 text-right">{figure(s.value, 1)}</span>
          <span className="max-lg:hidden">{hedgedStability(s.value, s.sd)}</span>
        </span>
      )
    },
  },
  {
    sort: 'throws',
    header: 'Throws',
    className: 'max-md:hidden',
    cell: (r) => <span className="figure">{r.throws || '–'}</span>,
  },
  {
    sort: 'last',
    header: 'Last thrown',
    className: 'max-lg:hidden',
    cell: (r) =>
      r.lastThrownAt === null ? <span className="text-quiet">never</span> : daysAgo(r.lastThrownAt),
  },
  { sort: 'weight', header: 'Weight', className: 'max-md:hidden', cell: (r) => <WeightCell disc={r} /> },
  { sort: 'wear', header: 'Wear', className: 'max-md:hidden', cell: (r) => <WearCell disc={r} /> },
]

interface ShelfTableProps {
  readonly rows: readonly TableRow[]
  readonly chosen: ReadonlySet<string>
  readonly onChosen: (chosen: ReadonlySet<string>) => void
}

/** The shelf: grouped by mold unless sorted otherwise; discs are chosen by their boxes. */
export function ShelfTable({ rows, chosen, onChosen }: ShelfTableProps) {
  const go = useNavigate()
  const [params, setParams] = useSearchParams()
  const sort = params.get('sort') ?? 'kin'
  const down = params.has('down')
  const sortBy = (key: string) =>
    setParams((p) => {
      p.delete('page')
      // up, down, and back to the groups
      if (sort !== key) p.set('sort', key)
      if (sort === key && down) p.delete('sort')
      if (sort === key && !down) p.set('down', '1')
      else p.delete('down')
      return p
    })
  const toggle = (id: string) => {
    const next = new Set(chosen)
    if (!next.delete(id)) next.add(id)
    onChosen(next)
  }
  const all = rows.every((r) => chosen.has(r.disc.id))
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <thead className="border-y border-rule bg-tint text-note">
          <tr>
            <th className="w-10 pl-4">
              <input
                type="checkbox"
                aria-label="Choose every disc on this page"
                className="size-4.5 accent-spruce align-middle"
                checked={all}
                onChange={() => {
                  const next = new Set(chosen)
                  for (const r of rows)
                    if (all) next.delete(r.disc.id)
                    else next.add(r.disc.id)
                  onChosen(next)
                }}
              />
            </th>
            {COLUMNS.map((c) => (
              <th
                key={c.sort}
                aria-sort={sort !== c.sort ? 'none' : down ? 'descending' : 'ascending'}
                className={clsx('font-medium', c.className)}
              >
                <button
                  type="button"
                  className="flex min-h-9 items-center gap-1 px-3 whitespace-nowrap"
                  onClick={() => sortBy(c.sort)}
                >
                  {c.header}
                  {sort === c.sort &&
                    (down ? <ArrowDown size={14} aria-hidden /> : <ArrowUp size={14} aria-hidden />)}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r, i) => (
            <Fragment key={r.disc.id}>
              {(sort !== 'kin' || r.mold.id !== rows[i - 1]?.mold.id) && (
                <tr className={clsx(sort !== 'kin' && 'hidden')}>
                  <th scope="rowgroup" colSpan={COLUMNS.length + 1} className="px-4 pt-4 pb-1">
                    <span className="text-lead">{r.mold.name}</span>{' '}
                    <span className="font-normal text-quiet">
                      {r.maker.name} · {r.mold.discClass} ·{' '}
                      <span className="figure">{numbersLine(r.mold.numbers)}</span>
                    </span>
                  </th>
                </tr>
              )}
              <tr
                className={clsx(
                  'cursor-pointer border-b border-rule hover:bg-tint',
                  chosen.has(r.disc.id) && 'bg-tint',
                )}
                onClick={(e) => {
                  // what is edited in place is not a way to the disc’s page
                  if ((e.target as Element).closest('a, button, input, select, form')) return
                  void go(`/shelf/${r.disc.id}`)
                }}
              >
                <td className="pl-4">
                  <input
                    type="checkbox"
                    aria-label={`Choose ${r.disc.code}`}
                    className="size-4.5 accent-spruce align-middle"
                    checked={chosen.has(r.disc.id)}
                    onChange={() => toggle(r.disc.id)}
                  />
                </td>
                {COLUMNS.map((c) => (
                  <td key={c.sort} className={clsx('px-3 py-1', c.className)}>
                    {sort !== 'kin' && c.sort === 'code' && (
                      <span className="text-note text-quiet">{r.mold.name}</span>
                    )}
                    {c.cell(r)}
                  </td>
                ))}
              </tr>
            </Fragment>
          ))}
        </tbody>
      </table>
    </div>
  )
}
