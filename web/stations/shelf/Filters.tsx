import { useSearchParams } from 'react-router'
import { STABILITY_WORDS } from '../../../core/judge/words.ts'
import { WEAR_STATES } from '../../../contract/shelf.ts'
import { DISC_CLASS_WORDS } from '../../../core/shelf/kinds.ts'
import { AGES } from '../../../contract/shelfPage.ts'
import { Button } from '../../parts/Button.tsx'
import { Select, plainOptions, wordedOptions } from '../../parts/Select.tsx'
import type { SelectOption } from '../../parts/Select.tsx'

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
  const set = (key: Filter, value: string | null) =>
    setParams((p) => {
      if (value === null) p.delete(key)
      else p.set(key, value)
      p.delete('page')
      return p
    })
  const select = (key: Filter, label: string, any: string, options: readonly SelectOption<string>[]) => (
    <Select
      hideLabel
      label={label}
      value={params.get(key)}
      onChange={(v) => set(key, v)}
      className="shrink-0"
      boxClass={params.has(key) ? 'border-ink font-medium' : undefined}
      options={[{ value: null, words: any }, ...options]}
    />
  )
  const chosen = FILTERS.filter((f) => params.has(f))
  return (
    <div
      className="flex items-center gap-2 px-4 pb-3 max-md:overflow-x-auto md:flex-wrap"
      role="group"
      aria-label="Filters"
    >
      {select('class', 'Class', 'any class', wordedOptions(DISC_CLASS_WORDS))}
      {select('plastic', 'Plastic', 'any plastic', plainOptions(plastics))}
      {select('wear', 'Wear', 'any wear', plainOptions(WEAR_STATES))}
      {select('word', 'How it flies', 'flies any way', plainOptions(STABILITY_WORDS))}
      {select('tested', 'Tested', 'tested or not', [
        { value: 'yes', words: 'tested' },
        { value: 'no', words: 'not tested' },
      ])}
      {select(
        'age',
        'Last thrown',
        'thrown any time',
        AGES.map((a) => ({ value: String(a), words: AGE_WORDS[a] })),
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
