import { DISC_CLASS_WORDS } from '../../../core/shelf/kinds.ts'
import { createColumnHelper, flexRender, getCoreRowModel, useReactTable } from '@tanstack/react-table'
import type { RowSelectionState } from '@tanstack/react-table'
import clsx from 'clsx'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { differenceInCalendarDays, format } from 'date-fns'
import { Fragment, useMemo } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { hedgedStability, stabilityWord } from '../../../core/judge/words.ts'
import { PER_M } from '../../../core/flight/side.ts'
import { sideOfRow, stabilityOf } from '../../../contract/shelfPage.ts'
import type { ShelfRow } from '../../../contract/shelfPage.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { ClaimEvidence } from '../../charts/ClaimEvidence.tsx'
import { LEVEL_WORDS } from '../../../contract/naming.ts'
import { useUnits } from '../../data/preferences.tsx'
import { numbersLine } from '../../data/units.ts'
import { hueOf, lookOf } from '../../strip/hues.ts'
import { WearCell, WeightCell } from './cells.tsx'
import { StationLink, useAddresses } from '../../parts/StationLink.tsx'

export type TableRow = ShelfRow & ShelvedDisc

const column = createColumnHelper<TableRow>()
/** What a column has beyond its cells: where it is shown. */
const FROM_MD = 'max-md:hidden'
const FROM_LG = 'max-lg:hidden'
const SHOWN: Readonly<Record<string, string>> = {
  numbers: FROM_MD,
  throws: FROM_MD,
  last: FROM_LG,
  weight: FROM_MD,
  wear: FROM_MD,
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

/** How far to the fade side it flies on average: what discs of different numbers are compared and sorted by. */
function SideCell({ row }: { readonly row: TableRow }) {
  const { length } = useUnits()
  return (
    <span
      className="figure whitespace-nowrap md:ml-auto md:w-16 md:text-right"
      title={`To the fade side on average, a flight of ${length.show(PER_M, 0)}`}
    >
      {length.show(sideOfRow(row, row.inForce.numbers), 1)}
    </span>
  )
}

/** Columns are named as the server sorts by them. */
const COLUMNS = [
  column.display({
    id: 'code',
    header: 'Disc',
    cell: ({ row: { original: r } }) => (
      <>
        <StationLink
          at="shelf/disc"
          params={{ discId: r.disc.id }}
          className="tap block font-semibold underline-offset-4 hover:underline"
        >
          <span className="figure mr-2.5 font-normal whitespace-nowrap">{r.disc.code}</span>
          {r.plastic.name}
        </StationLink>
        {r.run && <span className="block truncate text-note text-quiet">{r.run.name}</span>}
      </>
    ),
  }),
  column.display({
    id: 'numbers',
    header: 'In force',
    cell: ({ row: { original: r } }) => (
      <>
        <span className="figure whitespace-nowrap">{numbersLine(r.inForce.numbers)}</span>
        {r.inForce.level !== 'mold' && (
          <span className="block text-note text-quiet">{LEVEL_WORDS[r.inForce.level]}</span>
        )}
      </>
    ),
  }),
  column.display({
    id: 'stability',
    header: 'Claim and evidence; flies to the fade side',
    cell: ({ row: { original: r } }) => {
      const claim = r.inForce.numbers.turn + r.inForce.numbers.fade
      if (!r.rating || r.throws === 0)
        return (
          <span className="flex flex-wrap items-center gap-x-3 text-quiet md:flex-nowrap">
            <span className="md:flex-1">{stabilityWord(claim)}, by its numbers</span>
            <SideCell row={r} />
          </span>
        )
      const s = stabilityOf(r.rating)
      return (
        <span className="flex flex-wrap items-center gap-x-3 md:flex-nowrap">
          <ClaimEvidence
            what={`Stability of ${r.disc.code}`}
            published={claim}
            observed={s.value}
            sd={s.sd}
            hue={hueOf(lookOf(r.disc.code))}
          />
          <span className="flex-1 max-lg:hidden">{hedgedStability(s.value, s.sd)}</span>
          <SideCell row={r} />
        </span>
      )
    },
  }),
  column.display({
    id: 'throws',
    header: 'Throws',
    cell: ({ row: { original: r } }) => <span className="figure">{r.throws || '–'}</span>,
  }),
  column.display({
    id: 'last',
    header: 'Last thrown',
    cell: ({ row: { original: r } }) =>
      r.lastThrownAt === null ? <span className="text-quiet">never</span> : daysAgo(r.lastThrownAt),
  }),
  column.display({
    id: 'weight',
    header: 'Weight',
    cell: ({ row: { original: r } }) => <WeightCell disc={r} />,
  }),
  column.display({
    id: 'wear',
    header: 'Wear',
    cell: ({ row: { original: r } }) => <WearCell disc={r} />,
  }),
]

interface ShelfTableProps {
  readonly rows: readonly TableRow[]
  readonly chosen: ReadonlySet<string>
  readonly onChosen: (chosen: ReadonlySet<string>) => void
}

/** By what the shelf is sorted, as the address says; asked once it goes up, then down, then back to the groups. */
function useSorting() {
  const [params, setParams] = useSearchParams()
  const sort = params.get('sort') ?? 'kin'
  const down = params.has('down')
  const sortBy = (key: string) =>
    setParams((p) => {
      p.delete('page')
      if (sort !== key) p.set('sort', key)
      if (sort === key && down) p.delete('sort')
      if (sort === key && !down) p.set('down', '1')
      else p.delete('down')
      return p
    })
  return { sort, down, sortBy }
}

/** The shelf: grouped by mold unless sorted otherwise; discs are chosen by their boxes. */
export function ShelfTable({ rows, chosen, onChosen }: ShelfTableProps) {
  const go = useNavigate()
  const to = useAddresses()
  const { sort, down, sortBy } = useSorting()
  const rowSelection = useMemo<RowSelectionState>(
    () => Object.fromEntries([...chosen].map((id) => [id, true])),
    [chosen],
  )
  // rows come found, filtered, sorted and cut into pages; the table keeps columns and what is chosen
  const table = useReactTable({
    data: rows as TableRow[],
    columns: COLUMNS,
    state: { sorting: sort === 'kin' ? [] : [{ id: sort, desc: down }], rowSelection },
    manualSorting: true,
    manualPagination: true,
    enableRowSelection: true,
    getRowId: (r) => r.disc.id,
    getCoreRowModel: getCoreRowModel(),
    onRowSelectionChange: (change) => {
      const next = typeof change === 'function' ? change(rowSelection) : change
      onChosen(new Set(Object.keys(next).filter((id) => next[id])))
    },
  })
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <thead className="border-y border-rule bg-tint text-note">
          <tr>
            <th className="w-10 pl-4">
              <label className="-ml-3 grid size-11 place-items-center">
                <input
                  type="checkbox"
                  aria-label="Choose every disc on this page"
                  className="size-4.5 accent-spruce align-middle"
                  checked={table.getIsAllRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              </label>
            </th>
            {table.getFlatHeaders().map((h) => {
              const sorted = h.column.getIsSorted()
              return (
                <th
                  key={h.id}
                  aria-sort={sorted === false ? 'none' : sorted === 'desc' ? 'descending' : 'ascending'}
                  className={clsx('font-medium', SHOWN[h.column.id])}
                >
                  <button
                    type="button"
                    className="flex min-h-9 items-center gap-1 px-3 text-left md:whitespace-nowrap"
                    onClick={() => sortBy(h.column.id)}
                  >
                    {flexRender(h.column.columnDef.header, h.getContext())}
                    {sorted === 'desc' && <ArrowDown size={14} aria-hidden />}
                    {sorted === 'asc' && <ArrowUp size={14} aria-hidden />}
                  </button>
                </th>
              )
            })}
          </tr>
        </thead>
        <tbody>
          {table.getRowModel().rows.map((row, i) => {
            const r = row.original
            return (
              <Fragment key={row.id}>
                {(sort !== 'kin' || r.mold.id !== rows[i - 1]?.mold.id) && (
                  <tr className={clsx(sort !== 'kin' && 'hidden')}>
                    <th scope="rowgroup" colSpan={COLUMNS.length + 1} className="px-4 pt-4 pb-1">
                      <span className="text-lead">{r.mold.name}</span>{' '}
                      <span className="font-normal text-quiet">
                        {r.maker.name} · {DISC_CLASS_WORDS[r.mold.discClass]} ·{' '}
                        <span className="figure">{numbersLine(r.mold.numbers)}</span>
                      </span>
                    </th>
                  </tr>
                )}
                <tr
                  className={clsx(
                    'cursor-pointer border-b border-rule hover:bg-tint',
                    row.getIsSelected() && 'bg-tint',
                  )}
                  onClick={(e) => {
                    // what is edited in place is not a way to the disc’s page
                    if ((e.target as Element).closest('a, button, input, select, form')) return
                    void go(to('shelf/disc', { discId: r.disc.id })!)
                  }}
                >
                  <td className="pl-4">
                    <label className="-ml-3 grid size-11 place-items-center">
                      <input
                        type="checkbox"
                        aria-label={`Choose ${r.disc.code}`}
                        className="size-4.5 accent-spruce align-middle"
                        checked={row.getIsSelected()}
                        onChange={row.getToggleSelectedHandler()}
                      />
                    </label>
                  </td>
                  {row.getVisibleCells().map((c) => (
                    <td key={c.id} className={clsx('px-3 py-1', SHOWN[c.column.id])}>
                      {sort !== 'kin' && c.column.id === 'code' && (
                        <span className="text-note text-quiet">{r.mold.name}</span>
                      )}
                      {flexRender(c.column.columnDef.cell, c.getContext())}
                    </td>
                  ))}
                </tr>
              </Fragment>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}
