import type { ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { STABILITY_WORDS } from '../../../core/judge/words.ts'
import { DISC_CLASSES, WEAR_STATES } from '../../../contract/shelf.ts'
import { AGES } from '../../../contract/shelfPage.ts'
import { Button } from '../../parts/Button.tsx'

const FILTERS = ['class', 'plastic', 'wear', 'word', 'tested', 'age'] as const
export type Filter = (typeof FILTERS)[number]

const AGE_WORDS: Record<(typeof AGES)[number], string> = {
  30: 'over a month ago',
  90: 'over three months ago',
  365: 'over a year ago',
}

/** Narrows the shelf down; everything chosen is in the address. */
export function Filters({ plastics }: { plastics: readonly string[] }) {
  const [params, setParams] = useSearchParams()
  const set = (key: Filter, value: string) =>
    setParams((p) => {
      if (value === '') p.delete(key)
      else p.set(key, value)
      p.delete('page')
      return p
    })
  const select = (key: Filter, label: string, any: string, options: ReactNode) => (
    <select
      aria-label={label}
      value={params.get(key) ?? ''}
      onChange={(e) => set(key, e.target.value)}
      className={`min-h-9 max-w-44 shrink-0 rounded-lg border bg-card px-2 max-md:min-h-11 ${
        params.has(key) ? 'border-ink font-medium' : 'border-edge'
      }`}
    >
      <option value="">{any}</option>
      {options}
    </select>
  )
  const plain = (list: readonly string[]) => list.map((v) => <option key={v}>{v}</option>)
  const chosen = FILTERS.filter((f) => params.has(f))
  return (
    <div
      className="flex items-center gap-2 px-4 pb-3 max-md:overflow-x-auto md:flex-wrap"
      role="group"
      aria-label="Filters"
    >
      {select('class', 'Class', 'any class', plain(DISC_CLASSES))}
      {select('plastic', 'Plastic', 'any plastic', plain(plastics))}
      {select('wear', 'Wear', 'any wear', plain(WEAR_STATES))}
      {select('word', 'How it flies', 'flies any way', plain(STABILITY_WORDS))}
      {select(
        'tested',
        'Tested',
        'tested or not',
        <>
          <option value="yes">tested</option>
          <option value="no">not tested</option>
        </>,
      )}
      {select(
        'age',
        'Last thrown',
        'thrown any time',
        AGES.map((a) => (
          <option key={a} value={a}>
            {AGE_WORDS[a]}
          </option>
        )),
      )}
      {chosen.length > 0 && (
        <Button
          kind="quiet"
          onClick={() =>
            setParams((p) => {
              for (const f of chosen) p.delete(f)
              p.delete('page')
              return p
            })
          }
        >
          Show all
        </Button>
      )}
    </div>
  )
}
