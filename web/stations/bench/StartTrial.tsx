import clsx from 'clsx'
import { X } from 'lucide-react'
import { useEffect, useMemo, useReducer, useState } from 'react'
import type { Dispatch, FormEvent, ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { v7 as newId } from 'uuid'
import { questionOf } from '../../../core/plan/questions.ts'
import { QuestionInput } from '../../parts/QuestionInput.tsx'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { Trial } from '../../../contract/trials.ts'
import type { TrialSent } from '../../../contract/trials.ts'
import { useShelf } from '../../data/hooks.ts'
import { lineage } from '../../../contract/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { proposalFor } from '../../data/proposal.ts'
import { angleWords } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureInput, TextInput } from '../../parts/Inputs.tsx'
import { sayWrong } from '../../data/say.ts'
import { useAddresses } from '../../parts/StationLink.tsx'
import {
  addedFor,
  draftOf,
  foundBy,
  startingAfter,
  startingWith,
  plannedThrowsOf,
  wrongWith,
} from './starting.ts'
import type { Starting, StartingEvent } from './starting.ts'
import { Select } from '../../parts/Select.tsx'

const ANGLES = [15, 10, 8, 5, 0, -8, -15] as const
/** Longer lists are searched. */
const MOST_SHOWN = 40

interface StartTrialProps {
  /** Ids of discs chosen before. */
  readonly from: readonly string[]
  readonly onClose: () => void
}

/** A new trial: its question first, which proposes discs, control disc, angles and throws; everything can be changed. */
export default function StartTrial({ from, onClose }: StartTrialProps) {
  const go = useNavigate()
  const to = useAddresses()
  const { view } = useShelf()
  const discs = useMemo(() => view?.discs.filter((d) => d.disc.removedAt === null) ?? [], [view])
  const [state, tell] = useReducer(startingAfter, from, (ids) => startingWith(newId(), ids))
  useProposals(state, discs, tell)
  const draft = draftOf(state, discs)
  const wrong = state.tried ? (wrongWith(draft) ?? {}) : {}

  const keep = async (trial: Trial) => {
    await outbox.put('trials', trial)
    const plan = to('plan', { trialId: trial.id }) ?? to('field', { trialId: trial.id })
    if (plan === undefined) return onClose()
    void go(`${plan}?kind=${encodeURIComponent(state.kind)}`)
  }
  const submit = (e: FormEvent) => {
    e.preventDefault()
    tell({ did: 'tried' })
    const read = Trial.safeParse(draft)
    if (read.success) void keep(read.data)
  }
  const part = { state, tell, discs, draft, wrong }
  return (
    <Dialog open onClose={onClose} title="Start a trial" wide>
      <form className="space-y-4" noValidate onSubmit={submit}>
        <QuestionInput
          label="What do you want to know?"
          value={state.kind}
          onChange={(kind) => tell({ did: 'asked', kind })}
          hint={`Wants ${questionOf(state.kind).discs}. Answered by ${questionOf(state.kind).measure}.`}
          autoFocus
        />
        <Discs {...part} />
        <div className="grid gap-4 sm:grid-cols-2">
          <Control {...part} />
          <FigureInput
            label="Throws planned"
            digits={0}
            value={draft.plannedThrows}
            onChange={(plannedThrows) => tell({ did: 'set', change: { plannedThrows } })}
            hint={`${state.discIds.length} discs × ${state.hyzerDegs.length} angles × ${questionOf(state.kind).throwsACell} would be ${plannedThrowsOf(state)}`}
            error={wrong['plannedThrows']}
          />
        </div>
        <Angles {...part} />
        <div className="grid gap-4 sm:grid-cols-2">
          <TextInput
            label="Name"
            value={draft.name}
            onChange={(e) => tell({ did: 'set', change: { name: e.target.value } })}
            error={wrong['name']}
          />
          <TextInput
            label="Question"
            placeholder="Which is more stable?"
            value={draft.question}
            onChange={(e) => tell({ did: 'set', change: { question: e.target.value } })}
            error={wrong['question']}
          />
        </div>
        <Button kind="primary" type="submit">
          Start and plan
        </Button>
      </form>
    </Dialog>
  )
}

/** Has discs proposed where the trial wants some, as soon as the shelf is known. */
function useProposals({ wants }: Starting, discs: readonly ShelvedDisc[], tell: Dispatch<StartingEvent>) {
  const ready = discs.length > 0
  useEffect(() => {
    if (!ready || !wants) return
    proposalFor(wants.kind, wants.about, discs).then(
      (found) => tell({ did: 'proposed', of: wants, found }),
      (e: Error) => {
        tell({ did: 'proposed', of: wants, found: null })
        sayWrong(e.message)
      },
    )
    // a shelf that is read anew changes nothing of what was proposed
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ready, wants])
}

interface PartProps {
  readonly state: Starting
  readonly tell: Dispatch<StartingEvent>
  readonly discs: readonly ShelvedDisc[]
  readonly draft: TrialSent
  /** By field, once it was to be kept. */
  readonly wrong: Partial<Record<string, string>>
}

const Wrong = ({ children }: { children: ReactNode }) => (
  <p role="alert" className="mt-1 text-note font-medium text-accent">
    {children}
  </p>
)

/** Those chosen, and a shelf to find more in. */
function Discs({ state, tell, discs, wrong }: PartProps) {
  const { discIds, controlDiscId, lacks } = state
  const added = addedFor(state)
  const [find, setFind] = useState('')
  const found = foundBy(discs, find)
  const pick = (disc: string) => tell({ did: 'picked', disc })
  return (
    <fieldset>
      <legend className="mb-1 text-note text-quiet">
        Discs, the one you ask about first; others are proposed for the question
      </legend>
      {discIds.length > 0 && (
        <ul className="mb-2 flex flex-wrap gap-1.5" aria-label="Chosen">
          {discIds.map((id) => {
            const d = discs.find((x) => x.disc.id === id)
            return (
              <li key={id}>
                <button
                  type="button"
                  aria-label={`Leave out ${d?.disc.code ?? 'it'}`}
                  onClick={() => pick(id)}
                  className={clsx(
                    'inline-flex min-h-9 items-center gap-1.5 rounded-full border border-edge px-3 hover:bg-tint max-md:min-h-11',
                    added.includes(id) && 'border-dashed',
                  )}
                >
                  <span className="figure">{d?.disc.code}</span>
                  <span className="max-w-48 truncate">{d && lineage(d)}</span>
                  {(id === controlDiscId || added.includes(id)) && (
                    <span className="text-note text-quiet">
                      {[added.includes(id) && 'proposed', id === controlDiscId && 'control']
                        .filter(Boolean)
                        .join(', ')}
                    </span>
                  )}
                  <X size={14} aria-hidden />
                </button>
              </li>
            )
          })}
        </ul>
      )}
      {added.length > 0 && (
        <p role="status" className="mb-2 flex flex-wrap items-baseline gap-x-3 text-note text-quiet">
          {added.length === 1
            ? 'One of them, dashed, was added for the question.'
            : `${added.length} of them, dashed, were added for the question.`}
          <button
            type="button"
            className="min-h-8 underline underline-offset-4 max-md:min-h-11"
            onClick={() => tell({ did: 'left proposed' })}
          >
            Only what I ticked
          </button>
        </p>
      )}
      {lacks !== null && (
        <p role="status" className="mb-2 text-accent">
          The shelf has no {lacks.replace(/^an? /, '')}; add one, or ask something else.
        </p>
      )}
      <TextInput
        label="Find discs to add"
        type="search"
        value={find}
        placeholder="code, mold, plastic, wear …"
        onChange={(e) => setFind(e.target.value)}
      />
      <div className="mt-1.5 grid max-h-28 gap-1 overflow-y-auto rounded-lg border border-rule p-2 sm:grid-cols-2">
        {found.slice(0, MOST_SHOWN).map((d) => (
          <label key={d.disc.id} className="flex min-h-9 items-center gap-2 rounded px-2 hover:bg-tint">
            <input
              type="checkbox"
              className="size-4.5 accent-spruce"
              checked={discIds.includes(d.disc.id)}
              onChange={() => pick(d.disc.id)}
            />
            <span className="figure">{d.disc.code}</span>
            <span className="truncate">{lineage(d)}</span>
          </label>
        ))}
        {found.length > MOST_SHOWN && (
          <p className="px-2 text-note text-quiet">and {found.length - MOST_SHOWN} more; type to find them</p>
        )}
      </div>
      {wrong['discIds'] !== undefined && <Wrong>Discs: {wrong['discIds']}</Wrong>}
    </fieldset>
  )
}

function Control({ state: { discIds, controlDiscId }, tell, discs }: PartProps) {
  return (
    <Select
      label="Control disc, well known, thrown in every session"
      value={controlDiscId}
      onChange={(v) => tell({ did: 'chose control', disc: v })}
      hint={
        controlDiscId === null
          ? 'Without one, a habit and a bias shared by all discs cannot be told apart.'
          : 'It anchors the thrower’s habits.'
      }
      options={[
        { value: null, words: 'none' },
        ...discIds.flatMap((id) => {
          const d = discs.find((x) => x.disc.id === id)
          return d ? [{ value: id, words: `${d.disc.code} ${lineage(d)}` }] : []
        }),
      ]}
    />
  )
}

function Angles({ state: { hyzerDegs }, tell, wrong }: PartProps) {
  return (
    <fieldset>
      <legend className="mb-1 text-note text-quiet">
        Release angles; several show more of what a disc does, and calling them out of the hand tells most
      </legend>
      <div className="flex flex-wrap gap-2">
        {[...new Set([...ANGLES, ...hyzerDegs])]
          .sort((a, b) => b - a)
          .map((hyzerDeg) => (
            <Chip
              key={hyzerDeg}
              on={hyzerDegs.includes(hyzerDeg)}
              onClick={() => tell({ did: 'turned angle', hyzerDeg })}
            >
              {angleWords(hyzerDeg)}
            </Chip>
          ))}
      </div>
      {wrong['hyzerDegs'] !== undefined && <Wrong>{wrong['hyzerDegs']}</Wrong>}
    </fieldset>
  )
}
