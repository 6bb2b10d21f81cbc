import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table'
import type { SortingState } from '@tanstack/react-table'
import clsx from 'clsx'
import { ArrowDown, ArrowUp, Plus } from 'lucide-react'
import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { useShelf } from '../../data/hooks.ts'
import { LEVEL_WORDS, lineage } from '../../data/naming.ts'
import { numbersLine } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { DiscCard } from './DiscCard.tsx'
import { DiscForm } from './DiscForm.tsx'

const column = createColumnHelper<ShelvedDisc>()
const COLUMNS = [
  column.accessor((d) => d.disc.code, {
    id: 'code',
    header: 'Code',
    cell: (c) => <span className="figure">{c.getValue()}</span>,
  }),
  column.accessor((d) => lineage(d), {
    id: 'disc',
    header: 'Disc',
    cell: ({ row: { original: d } }) => (
      <>
        <span className="font-semibold">{d.mold.name}</span> {d.plastic.name}
        <span className="block truncate text-note text-quiet">
          {d.maker.name}
          {d.run && ` · ${d.run.name}`}
        </span>
      </>
    ),
  }),
  column.accessor((d) => d.inForce.numbers.speed, {
    id: 'numbers',
    header: 'In force',
    cell: ({ row: { original: d } }) => (
      <>
        <span className="figure whitespace-nowrap">{numbersLine(d.inForce.numbers)}</span>
        <span className="block text-note text-quiet">{LEVEL_WORDS[d.inForce.level]}</span>
      </>
    ),
  }),
  column.accessor((d) => d.disc.weighedG ?? d.disc.markedG ?? 0, {
    id: 'weight',
    header: 'Weight',
    cell: ({ row: { original: d } }) => (
      <>
        <span className="figure whitespace-nowrap">{d.disc.weighedG ?? d.disc.markedG ?? '–'} g</span>
        <span className="block text-note text-quiet">
          {d.disc.weighedG !== null ? 'weighed' : d.disc.markedG !== null ? 'marked' : 'not known'}
        </span>
      </>
    ),
  }),
  column.accessor((d) => d.disc.wear, { id: 'wear', header: 'Wear' }),
]

export default function Shelf() {
  const { view, error } = useShelf()
  const { discId } = useParams()
  const [params, setParams] = useSearchParams()
  const go = useNavigate()
  const [sorting, setSorting] = useState<SortingState>([{ id: 'code', desc: false }])
  const [form, setForm] = useState<ShelvedDisc | 'new'>()
  const find = params.get('find') ?? ''
  const removed = params.get('removed') === '1'
  const rows = useMemo(() => {
    const words = find.toLowerCase().split(/\s+/).filter(Boolean)
    return (view?.discs ?? []).filter((d) => {
      if ((d.disc.removedAt !== null) !== removed) return false
      const text =
        `${d.disc.code} ${d.maker.name} ${d.mold.name} ${d.plastic.name} ${d.run?.name ?? ''} ${d.disc.wear} ${d.mold.discClass}`.toLowerCase()
      return words.every((w) => text.includes(w))
    })
  }, [view, find, removed])
  const table = useReactTable({
    data: rows,
    columns: COLUMNS,
    state: { sorting },
    onSortingChange: setSorting,
    getRowId: (d) => d.disc.id,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  })
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the shelf" />
  const add = (
    <Button kind="primary" onClick={() => setForm('new')}>
      <Plus size={18} aria-hidden /> Add a disc
    </Button>
  )
  const open =
    view.discs.find((d) => d.disc.id === discId) ??
    (discId ? undefined : table.getRowModel().rows[0]?.original)
  const gone = view.discs.filter((d) => d.disc.removedAt !== null).length
  return (
    <div className="grid gap-3 p-3 md:p-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <Card className={clsx('overflow-hidden', discId && 'max-lg:hidden')} label="Discs on the shelf">
        <div className="flex flex-wrap items-center gap-3 p-4">
          <div className="mr-auto">
            <h1 className="text-title">Shelf</h1>
            <p className="text-quiet">
              {rows.length} {rows.length === 1 ? 'disc' : 'discs'}
              {find && ' found'}
              {removed && ' taken off'}
            </p>
          </div>
          <input
            type="search"
            aria-label="Find a disc"
            placeholder="Find by code, mold, plastic, wear …"
            value={find}
            onChange={(e) =>
              setParams((p) => (e.target.value ? p.set('find', e.target.value) : p.delete('find'), p), {
                replace: true,
              })
            }
            className="min-h-10 w-64 rounded-lg border border-edge bg-card px-3 max-sm:w-full"
          />
          {gone > 0 && (
            <Button
              kind="quiet"
              onClick={() => setParams((p) => (removed ? p.delete('removed') : p.set('removed', '1'), p))}
            >
              {removed ? 'On the shelf' : `Taken off (${gone})`}
            </Button>
          )}
          {add}
        </div>
        {rows.length === 0 ? (
          <Empty title={find ? 'No disc like that' : 'The shelf is empty'} action={find ? undefined : add}>
            {find
              ? 'Try fewer letters, or a part of the code.'
              : 'Add the discs you want to compare, with the numbers printed on them.'}
          </Empty>
        ) : (
          <div className="overflow-x-auto">
            <table className="w-full text-left">
              <thead className="border-y border-rule bg-tint text-note">
                {table.getHeaderGroups().map((g) => (
                  <tr key={g.id}>
                    {g.headers.map((h) => (
                      <th
                        key={h.id}
                        aria-sort={
                          h.column.getIsSorted() === 'asc'
                            ? 'ascending'
                            : h.column.getIsSorted() === 'desc'
                              ? 'descending'
                              : 'none'
                        }
                        className="font-medium"
                      >
                        <button
                          type="button"
                          className="flex min-h-9 items-center gap-1 px-4"
                          onClick={h.column.getToggleSortingHandler()}
                        >
                          {flexRender(h.column.columnDef.header, h.getContext())}
                          {h.column.getIsSorted() === 'asc' && <ArrowUp size={14} aria-hidden />}
                          {h.column.getIsSorted() === 'desc' && <ArrowDown size={14} aria-hidden />}
                        </button>
                      </th>
                    ))}
                  </tr>
                ))}
              </thead>
              <tbody>
                {table.getRowModel().rows.map((r) => (
                  <tr
                    key={r.id}
                    className={clsx(
                      'cursor-pointer border-b border-rule hover:bg-tint',
                      r.id === open?.disc.id && 'bg-tint',
                    )}
                    onClick={() => go({ pathname: `/shelf/${r.id}`, search: params.toString() })}
                  >
                    {r.getVisibleCells().map((c, i) => (
                      <td key={c.id} className="px-4 py-2">
                        {i === 0 ? (
                          <Link
                            to={{ pathname: `/shelf/${r.id}`, search: params.toString() }}
                            aria-current={r.id === open?.disc.id ? 'true' : undefined}
                            onClick={(e) => e.stopPropagation()}
                          >
                            {flexRender(c.column.columnDef.cell, c.getContext())}
                          </Link>
                        ) : (
                          flexRender(c.column.columnDef.cell, c.getContext())
                        )}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </Card>
      <div className={clsx(!discId && 'max-lg:hidden')}>
        {open ? (
          <DiscCard disc={open} onEdit={() => setForm(open)} />
        ) : (
          discId && (
            <Card>
              <Empty title="No such disc">It may have been on another shelf. Pick one from the list.</Empty>
            </Card>
          )
        )}
      </div>
      {form && (
        <DiscForm
          shelf={view.shelf}
          disc={form === 'new' ? undefined : form}
          onClose={() => setForm(undefined)}
        />
      )}
    </div>
  )
}
