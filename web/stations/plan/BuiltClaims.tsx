import { useState } from 'react'
import type { Plan } from '../../../contract/trials.ts'
import { CLAIMABLE, CLAIMABLES } from '../../../core/judge/claims.ts'
import { claimWords } from '../../data/claims.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { say } from '../../data/say.ts'
import { Select } from '../../parts/Select.tsx'

type Built = Plan['built'][number]

interface BuiltClaimsProps {
  readonly built: readonly Built[]
  readonly discIds: readonly string[]
  readonly nameOf: (id: string) => string
  readonly locked: boolean
  readonly onBuilt: (built: Built[]) => void
}

/** Most claims of one plan. */
const MOST = 12

/** Claims built from parts: this disc, what of it, than which, by how much. They are judged by the throws. */
export function BuiltClaims({ built, discIds, nameOf, locked, onBuilt }: BuiltClaimsProps) {
  const units = useUnits()
  const [draft, setDraft] = useState<Built>({
    discId: discIds[0]!,
    says: 'flies-farther-than',
    thanId: discIds[1] ?? null,
    by: 0,
  })
  const inMetres = CLAIMABLE[draft.says].unit === 'm'
  const measure = inMetres ? units.length : undefined
  if (locked && built.length === 0) return null
  const others = discIds.filter((d) => d !== draft.discId)
  return (
    <div className="mb-3">
      <h3 className="font-semibold">Claims that throws can judge</h3>
      <ul>
        {built.map((c) => {
          const words = claimWords(c, nameOf, units)
          return (
            <li key={words} className="flex items-center gap-2 border-b border-rule py-1">
              <span className="flex-1">{words}</span>
              {!locked && (
                <button
                  type="button"
                  aria-label={`Remove “${words}”`}
                  className="text-note text-quiet underline underline-offset-4 max-md:min-h-11"
                  onClick={() => {
                    onBuilt(built.filter((x) => x !== c))
                    say('The claim was removed.', { label: 'Restore', run: () => onBuilt([...built]) })
                  }}
                >
                  Remove
                </button>
              )}
            </li>
          )
        })}
      </ul>
      {!locked && built.length < MOST && (
        <form
          aria-label="What throws can judge"
          className="mt-1.5 grid gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            const words = claimWords(draft, nameOf, units)
            if (!built.some((c) => claimWords(c, nameOf, units) === words)) onBuilt([...built, draft])
          }}
        >
          <Select
            label="Disc"
            value={draft.discId}
            onChange={(discId) => {
              setDraft({ ...draft, discId, thanId: draft.thanId === discId ? null : draft.thanId })
            }}
            options={discIds.map((d) => ({ value: d, words: nameOf(d) }))}
          />
          <Select
            label="What of it"
            value={draft.says}
            onChange={(v) => setDraft({ ...draft, says: v, by: 0 })}
            options={CLAIMABLES.map((value) => ({ value, words: CLAIMABLE[value].words }))}
          />
          <Select
            label="Than"
            value={draft.thanId}
            onChange={(v) => setDraft({ ...draft, thanId: v })}
            options={[
              ...(draft.says !== 'skips-farther-than' ? [{ value: null, words: 'its label' }] : []),
              ...others.map((d) => ({ value: d, words: nameOf(d) })),
            ]}
          />
          <div className="flex items-end gap-2">
            <FigureInput
              label="By at least"
              className="min-w-0 flex-1"
              unit={inMetres ? units.length.unit : 'nos.'}
              value={draft.by === 0 ? null : (measure?.to(draft.by) ?? draft.by)}
              placeholder="any"
              onChange={(v) =>
                setDraft({ ...draft, by: v === null ? 0 : Math.max(0, measure?.from(v) ?? v) })
              }
            />
            <Button type="submit" disabled={draft.says === 'skips-farther-than' && draft.thanId === null}>
              Add
            </Button>
          </div>
        </form>
      )}
    </div>
  )
}
