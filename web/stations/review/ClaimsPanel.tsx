import clsx from 'clsx'
import { wordedAs } from '../../../core/review/judged.ts'
import type { Judged, Verdict } from '../../../core/review/judged.ts'
import { percent } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { claimKey } from './editor/claimMarks.ts'
import type { MarkedClaim } from './editor/claimMarks.ts'
import type { Sources } from './sources.tsx'

/** A claim, and in which section it stands. */
export interface PlacedClaim extends MarkedClaim {
  readonly section: string
}

export interface ClaimsPanelProps {
  readonly claims: readonly PlacedClaim[]
  readonly judged: ReadonlyMap<string, Judged>
  readonly sources: Sources
  readonly onWord: (claim: PlacedClaim, words: string) => void
  readonly onShow: (claim: PlacedClaim) => void
}

/** What the throws make of a claim, in words. */
const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  carried: 'carried by the throws',
  leaning: 'a leaning',
  'not shown': 'not shown',
  contradicted: 'contradicted',
}

/** Every claim found in the text, what the throws make of it, and one press that words it as they allow. */
export function ClaimsPanel({ claims, ...rest }: ClaimsPanelProps) {
  return (
    <Card className="p-4" label="Claims">
      <h2 className="text-lead">Claims</h2>
      <p className="text-note text-quiet">
        {claims.length === 0
          ? 'Sentences that compare discs are found while you write and held against the throws.'
          : 'Found in what you wrote, held against the throws.'}
      </p>
      <ul>
        {claims.map((c) => (
          <ClaimRow key={`${c.section} ${c.from}`} claim={c} {...rest} />
        ))}
      </ul>
    </Card>
  )
}

/** The same under the section it stands in, where there is no room beside it. */
export const ClaimsOfSection = ({ claims, ...rest }: ClaimsPanelProps) =>
  claims.length > 0 && (
    <ul className="mt-1 rounded-lg border border-rule px-3 xl:hidden" aria-label="Claims of this section">
      {claims.map((c) => (
        <ClaimRow key={c.from} claim={c} {...rest} />
      ))}
    </ul>
  )

interface ClaimRowProps extends Omit<ClaimsPanelProps, 'claims'> {
  readonly claim: PlacedClaim
}

/** A claim, what the throws make of it, and how they would word it. */
function ClaimRow({ claim: c, judged, sources, onWord, onShow }: ClaimRowProps) {
  const said = judged.get(claimKey(c))
  const name = sources.get(c.trial)?.name ?? ((code: string) => code)
  const words = said && wordedAs(c.claim, said, name)
  return (
    <li className="border-t border-rule py-2 first:border-0">
      <button
        type="button"
        className="block text-left underline-offset-4 hover:underline max-md:min-h-11"
        onClick={() => onShow(c)}
      >
        {c.text}
      </button>
      <span className="flex items-center gap-2 text-note">
        <span className={clsx('claim', `claim-${(said?.verdict ?? 'weighed').replace(' ', '-')}`)}>
          {said ? VERDICT_WORDS[said.verdict] : 'weighing …'}
        </span>
        {said?.probability !== undefined && (
          <span className="figure">
            {said.verdict === 'contradicted'
              ? `${percent(1 - said.probability)} against it`
              : percent(said.probability)}
          </span>
        )}
      </span>
      {said && words && said.verdict !== 'carried' && (
        <Button kind="quiet" className="mt-1 text-left text-note" onClick={() => onWord(c, words)}>
          Word it: {words}
        </Button>
      )}
    </li>
  )
}
