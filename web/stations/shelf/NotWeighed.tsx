import type { NotWeighed as List } from '../../../contract/shelfPage.ts'
import { StationLink } from '../../parts/StationLink.tsx'

/** Throws the shelf was rated without, since no arithmetic holds them. */
export function NotWeighedOnShelf({ list }: { list: List }) {
  return (
    <section
      aria-label="Not weighed"
      className="mx-4 mb-3 rounded-lg border-l-4 border-accent bg-tint px-3 py-2"
    >
      <p className="font-medium">
        Rated without {list.length === 1 ? 'one throw that' : `${list.length} throws that`} could not be
        weighed:
      </p>
      <ul>
        {list.slice(0, 5).map((t) => (
          <li key={t.throwId}>
            A throw of {t.code}: {t.why}.{' '}
            <StationLink at="readout" params={{ trialId: t.trialId }} className="font-medium underline">
              Open its readout
            </StationLink>
          </li>
        ))}
        {list.length > 5 && <li>and {list.length - 5} more</li>}
      </ul>
    </section>
  )
}
