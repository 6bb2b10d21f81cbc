import { limitWords } from '../../core/judge/limits.ts'
import type { Limit } from '../../core/judge/limits.ts'

/** What further evidence would narrow the open question most, in a sentence; nothing where none is worth anything. */
export function LimitLine({ limit }: { limit: Limit | undefined }) {
  if (!limit) return null
  return (
    <p className="mt-1 border-t border-rule pt-2 text-note" data-testid="limit">
      <span className="text-quiet">What would tell most. </span>
      {limitWords(limit)}.
    </p>
  )
}
