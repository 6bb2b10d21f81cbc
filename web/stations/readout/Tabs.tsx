import { useSearchParams } from 'react-router'
import { VIEWS } from './views/views.tsx'
import type { ViewName } from './views/views.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { TAB_NAV, TAB_ROW, tabLook } from '../../parts/tabLook.ts'

/** Links to the views of a readout; what it is read from goes along. */
export function Tabs({ trialId, view }: { trialId: string; view: ViewName }) {
  const [params] = useSearchParams()
  const from = params.get('from')
  return (
    <nav aria-label="Views of the readout" className={`min-w-0 flex-1 ${TAB_NAV}`}>
      <ul className={TAB_ROW}>
        {(Object.keys(VIEWS) as ViewName[]).map((name) => (
          <li key={name}>
            <StationLink
              at="readout"
              params={name === 'answer' ? { trialId } : { trialId, view: name }}
              search={from ? `?from=${from}` : ''}
              aria-current={name === view ? 'page' : undefined}
              className={tabLook(name === view)}
            >
              {VIEWS[name].words}
            </StationLink>
          </li>
        ))}
      </ul>
    </nav>
  )
}
