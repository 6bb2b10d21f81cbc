import clsx from 'clsx'
import { useSearchParams } from 'react-router'
import { VIEWS } from './views/views.tsx'
import type { ViewName } from './views/views.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

/** Links to the views of a readout; what it is read from goes along. */
export function Tabs({ trialId, view }: { trialId: string; view: ViewName }) {
  const [params] = useSearchParams()
  const from = params.get('from')
  return (
    <nav
      aria-label="Views of the readout"
      className="-mx-3 min-w-0 flex-1 overflow-x-auto px-3 md:mx-0 md:px-0"
    >
      <ul className="flex gap-1 border-b border-rule">
        {(Object.keys(VIEWS) as ViewName[]).map((name) => (
          <li key={name}>
            <StationLink
              at="readout"
              params={name === 'answer' ? { trialId } : { trialId, view: name }}
              search={from ? `?from=${from}` : ''}
              aria-current={name === view ? 'page' : undefined}
              className={clsx(
                'flex min-h-10 items-center border-b-3 px-2.5 font-medium whitespace-nowrap max-md:min-h-11',
                name === view ? 'border-water text-ink' : 'border-transparent text-quiet hover:bg-tint',
              )}
            >
              {VIEWS[name].words}
            </StationLink>
          </li>
        ))}
      </ul>
    </nav>
  )
}
