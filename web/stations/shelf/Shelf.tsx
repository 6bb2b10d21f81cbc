import { ChevronLeft, ChevronRight, Download, Plus, Upload } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { Disc } from '../../../contract/shelf.ts'
import { PAGE_SIZE } from '../../../contract/shelfPage.ts'
import { shelved } from '../../../contract/sheet.ts'
import { useShelf } from '../../data/hooks.ts'
import { useShelfPage } from '../../data/shelfPage.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { BulkBar } from './BulkBar.tsx'
import { DiscForm } from './DiscForm.tsx'
import { Filters } from './Filters.tsx'
import { ImportDiscs } from './ImportDiscs.tsx'
import { NotWeighedOnShelf } from './NotWeighed.tsx'
import { ShelfTable } from './ShelfTable.tsx'

const LINK = buttonLook()

export default function Shelf() {
  const [params, setParams] = useSearchParams()
  const { page, error } = useShelfPage(params.toString())
  const { view } = useShelf()
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [open, setOpen] = useState<'add' | 'import' | undefined>(() =>
    params.has('add') ? 'add' : undefined,
  )
  const rows = useMemo(() => page?.rows.map((row) => ({ ...row, ...shelved(row) })) ?? [], [page])
  // a disc chosen on another page is known from the shelf
  const discs = useMemo<readonly Disc[]>(() => {
    const byId = new Map((view?.discs ?? []).map((d) => [d.disc.id, d.disc]))
    for (const r of rows) byId.set(r.disc.id, r.disc)
    return [...chosen].flatMap((id) => byId.get(id) ?? [])
  }, [chosen, view, rows])
  if (error && !page) return <TroubleNote error={error} />
  if (!page) return <WaitingNote what="the shelf" />

  const removed = params.has('removed')
  const narrowed = [...params.keys()].some((k) => !['sort', 'down', 'page', 'removed', 'add'].includes(k))
  const add = (
    <Button kind="primary" onClick={() => setOpen('add')}>
      <Plus size={18} aria-hidden /> Add a disc
    </Button>
  )
  return (
    <div className="p-3 md:p-4">
      <Card label="Discs on the shelf">
        <div className="flex flex-wrap items-center gap-2 p-4 pb-3">
          <div className="mr-auto">
            <h1 className="text-title">Shelf</h1>
            <p className="text-quiet" role="status">
              {page.total} {page.total === 1 ? 'disc' : 'discs'}
              {narrowed && ' found'}
              {removed && ' taken off'}
              {page.behind && ', weighing new throws …'}
            </p>
          </div>
          <Find />
          {page.removed > 0 && (
            <Button
              kind="quiet"
              onClick={() => {
                setChosen(new Set())
                setParams(removed ? {} : { removed: '1' })
              }}
            >
              {removed ? 'On the shelf' : `Taken off (${page.removed})`}
            </Button>
          )}
          <Button onClick={() => setOpen('import')}>
            <Upload size={16} aria-hidden /> Import
          </Button>
          <a href="/api/discs.csv" download className={LINK}>
            <Download size={16} aria-hidden /> Export
          </a>
          {add}
        </div>
        {page.notWeighed.length > 0 && <NotWeighedOnShelf list={page.notWeighed} />}
        <Filters plastics={page.plastics} />
        {rows.length === 0 ? (
          <Empty
            title={narrowed ? 'No disc like that' : removed ? 'Nothing taken off' : 'The shelf is empty'}
            action={narrowed || removed ? undefined : add}
          >
            {narrowed
              ? 'Try fewer letters or fewer filters.'
              : removed
                ? 'Every disc is on the shelf.'
                : 'Add the discs you want to compare, with the numbers printed on them.'}
          </Empty>
        ) : (
          <ShelfTable rows={rows} chosen={chosen} onChosen={setChosen} />
        )}
        <Pages total={page.total} />
        {discs.length > 0 && (
          <BulkBar
            chosen={discs}
            others={page.ids.filter((id) => !chosen.has(id)).length}
            onAll={() => setChosen(new Set([...chosen, ...page.ids]))}
            onClear={() => setChosen(new Set())}
          />
        )}
      </Card>
      {open === 'add' && view && (
        <DiscForm shelf={view.shelf} disc={undefined} onClose={() => setOpen(undefined)} />
      )}
      {open === 'import' && <ImportDiscs onClose={() => setOpen(undefined)} />}
    </div>
  )
}

/** What is looked for; it is in the address. */
function Find() {
  const [params, setParams] = useSearchParams()
  return (
    <input
      type="search"
      aria-label="Find a disc"
      placeholder="Find by code, mold, run …"
      value={params.get('find') ?? ''}
      onChange={(e) =>
        setParams(
          (p) => {
            if (e.target.value) p.set('find', e.target.value)
            else p.delete('find')
            p.delete('page')
            return p
          },
          { replace: true },
        )
      }
      className="min-h-10 w-60 rounded-lg border border-edge bg-card px-3 max-sm:w-full"
    />
  )
}

/** Turns the pages of a long shelf. */
function Pages({ total }: { readonly total: number }) {
  const [params, setParams] = useSearchParams()
  const at = Number(params.get('page') ?? 0)
  const pages = Math.ceil(total / PAGE_SIZE)
  const turn = (to: number) =>
    setParams((p) => {
      if (to === 0) p.delete('page')
      else p.set('page', String(to))
      return p
    })
  if (pages <= 1) return null
  return (
    <div className="flex items-center justify-end gap-3 border-t border-rule px-4 py-2">
      <span className="figure text-quiet">
        {at * PAGE_SIZE + 1}–{Math.min(total, (at + 1) * PAGE_SIZE)} of {total}
      </span>
      <Button aria-label="Page before" disabled={at === 0} onClick={() => turn(at - 1)}>
        <ChevronLeft size={18} aria-hidden />
      </Button>
      <Button aria-label="Next page" disabled={at >= pages - 1} onClick={() => turn(at + 1)}>
        <ChevronRight size={18} aria-hidden />
      </Button>
    </div>
  )
}
