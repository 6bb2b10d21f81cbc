import { zodResolver } from '@hookform/resolvers/zod'
import { X } from 'lucide-react'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useForm } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { v7 as newId } from 'uuid'
import { QUESTION_KINDS, questionOf } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
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
import { FigureField } from '../../parts/FigureField.tsx'
import { SelectInput, TextInput } from '../../parts/Inputs.tsx'
import { sayWrong } from '../../data/say.ts'
import { useAddresses } from '../../parts/StationLink.tsx'

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
  const [kind, setKind] = useState<QuestionKind>(from.length > 1 ? 'molds' : 'label')
  const [lacks, setLacks] = useState<string | null>(null)
  const [find, setFind] = useState('')
  // discs picked by hand are not replaced by what is proposed
  const picked = useRef(from.length > 1)
  const { control, register, handleSubmit, formState, watch, setValue } = useForm<TrialSent, unknown, Trial>({
    resolver: zodResolver(Trial),
    defaultValues: {
      id: newId(),
      name: '',
      question: questionOf(kind).words,
      discIds: [...from],
      controlDiscId: null,
      hyzerDegs: [...questionOf(kind).hyzerDegs],
      plannedThrows: from.length * questionOf(kind).hyzerDegs.length * questionOf(kind).throwsACell,
      finishedAt: null,
      version: 0,
    },
  })
  const { errors, dirtyFields, isSubmitted } = formState
  const [chosen, angles, anchor] = watch(['discIds', 'hyzerDegs', 'controlDiscId'])
  const toggled = <T,>(list: readonly T[], item: T) =>
    list.includes(item) ? list.filter((x) => x !== item) : [...list, item]
  /** The plan follows what is chosen until somebody sets it. */
  const choose = (
    discIds: readonly string[],
    hyzerDegs: readonly number[],
    controlDiscId: string | null,
    of: QuestionKind = kind,
  ) => {
    const again = { shouldValidate: isSubmitted }
    setValue('discIds', [...discIds], again)
    setValue('hyzerDegs', [...hyzerDegs], again)
    setValue(
      'controlDiscId',
      controlDiscId !== null && discIds.includes(controlDiscId) ? controlDiscId : null,
      again,
    )
    if (!dirtyFields.plannedThrows)
      setValue('plannedThrows', discIds.length * hyzerDegs.length * questionOf(of).throwsACell)
    const about = discs.find((d) => d.disc.id === discIds[0])
    if (about && !dirtyFields.name) setValue('name', nameOf(of, about), again)
  }
  const propose = async (of: QuestionKind, about: string | undefined, hyzerDegs: readonly number[]) => {
    if (about === undefined) return choose([], hyzerDegs, null, of)
    try {
      const found = await proposalFor(of, about, discs)
      setLacks(found.lacks)
      choose(found.discs, hyzerDegs, found.control, of)
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const ask = (of: QuestionKind) => {
    const { words, hyzerDegs } = questionOf(of)
    setKind(of)
    setLacks(null)
    if (!dirtyFields.question) setValue('question', words)
    if (picked.current) choose(chosen, hyzerDegs, anchor, of)
    else void propose(of, chosen[0], hyzerDegs)
  }
  const pick = (id: string) => {
    const next = toggled(chosen, id)
    if (chosen.length === 0) {
      choose([id], angles, null)
      return void propose(kind, id, angles)
    }
    picked.current = next.length > 1
    choose(next, angles, anchor)
  }
  // one disc brought from the shelf is proposed for as soon as the shelf is known
  const ready = discs.length > 0
  useEffect(() => {
    if (!ready) return
    if (from.length === 1) void propose(kind, from[0], angles)
    else if (from.length > 1) choose(from, angles, anchor)
    // once: afterwards the person chooses
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ready])

  const keep = async (trial: Trial) => {
    await outbox.put('trials', trial)
    const plan = to('plan', { trialId: trial.id }) ?? to('field', { trialId: trial.id })
    if (plan === undefined) return onClose()
    void go(`${plan}?kind=${encodeURIComponent(kind)}`)
  }
  const words = find.toLowerCase().split(/\s+/).filter(Boolean)
  const found = discs.filter((d) => {
    const text =
      `${d.disc.code} ${lineage(d)} ${d.maker.name} ${d.disc.wear} ${d.mold.discClass}`.toLowerCase()
    return words.every((w) => text.includes(w))
  })
  const byId = new Map(discs.map((d) => [d.disc.id, d]))
  const question = questionOf(kind)

  return (
    <Dialog open onClose={onClose} title="Start a trial" wide>
      <form className="space-y-4" noValidate onSubmit={(e) => void handleSubmit(keep)(e)}>
        <SelectInput
          label="What do you want to know?"
          value={kind}
          onChange={(e) => ask(e.target.value as QuestionKind)}
          hint={`Wants ${question.discs}. Answered by ${question.measure}.`}
          autoFocus
        >
          {QUESTION_KINDS.map((k) => (
            <option key={k} value={k}>
              {questionOf(k).words}
            </option>
          ))}
        </SelectInput>
        <fieldset>
          <legend className="mb-1 text-note text-quiet">
            Discs, the one you ask about first; others are proposed for the question
          </legend>
          {chosen.length > 0 && (
            <ul className="mb-2 flex flex-wrap gap-1.5" aria-label="Chosen">
              {chosen.map((id) => (
                <li key={id}>
                  <button
                    type="button"
                    aria-label={`Leave out ${byId.get(id)?.disc.code ?? 'it'}`}
                    onClick={() => pick(id)}
                    className="inline-flex min-h-9 items-center gap-1.5 rounded-full border border-edge px-3 hover:bg-tint"
                  >
                    <span className="figure">{byId.get(id)?.disc.code}</span>
                    <span className="max-w-48 truncate">{byId.has(id) && lineage(byId.get(id)!)}</span>
                    {id === anchor && <span className="text-note text-quiet">control</span>}
                    <X size={14} aria-hidden />
                  </button>
                </li>
              ))}
            </ul>
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
                  checked={chosen.includes(d.disc.id)}
                  onChange={() => pick(d.disc.id)}
                />
                <span className="figure">{d.disc.code}</span>
                <span className="truncate">{lineage(d)}</span>
              </label>
            ))}
            {found.length > MOST_SHOWN && (
              <p className="px-2 text-note text-quiet">
                and {found.length - MOST_SHOWN} more; type to find them
              </p>
            )}
          </div>
          {errors.discIds && (
            <p role="alert" className="mt-1 text-note font-medium text-accent">
              Discs: {errors.discIds.message}
            </p>
          )}
        </fieldset>
        <div className="grid gap-4 sm:grid-cols-2">
          <SelectInput
            label="Control disc, well known, thrown in every session"
            value={anchor ?? ''}
            onChange={(e) => choose(chosen, angles, e.target.value === '' ? null : e.target.value)}
            hint={
              anchor === null
                ? 'Without one, a habit and a bias shared by all discs cannot be told apart.'
                : 'It anchors the thrower’s habits.'
            }
          >
            <option value="">none</option>
            {chosen.flatMap((id) => {
              const d = byId.get(id)
              return d
                ? [
                    <option key={id} value={id}>
                      {d.disc.code} {lineage(d)}
                    </option>,
                  ]
                : []
            })}
          </SelectInput>
          <FigureField
            control={control}
            name="plannedThrows"
            label="Throws planned"
            digits={0}
            hint={`${chosen.length} discs × ${angles.length} angles × ${question.throwsACell} would be ${chosen.length * angles.length * question.throwsACell}`}
          />
        </div>
        <fieldset>
          <legend className="mb-1 text-note text-quiet">
            Release angles; several show more of what a disc does, and calling them out of the hand tells most
          </legend>
          <div className="flex flex-wrap gap-2">
            {[...new Set([...ANGLES, ...angles])]
              .sort((a, b) => b - a)
              .map((a) => (
                <Chip
                  key={a}
                  on={angles.includes(a)}
                  onClick={() => choose(chosen, toggled(angles, a), anchor)}
                >
                  {angleWords(a)}
                </Chip>
              ))}
          </div>
          {errors.hyzerDegs && (
            <p role="alert" className="mt-1 text-note font-medium text-accent">
              {errors.hyzerDegs.message}
            </p>
          )}
        </fieldset>
        <div className="grid gap-4 sm:grid-cols-2">
          <TextInput label="Name" {...register('name')} error={errors.name?.message} />
          <TextInput
            label="Question"
            {...register('question')}
            placeholder="Which is more stable?"
            error={errors.question?.message}
          />
        </div>
        <Button kind="primary" type="submit">
          Start and plan
        </Button>
      </form>
    </Dialog>
  )
}

/** What a trial is called until somebody names it. */
function nameOf(kind: QuestionKind, about: ShelvedDisc): string {
  const { mold, plastic } = about
  const names: Record<QuestionKind, string> = {
    label: `${mold.name}, ${plastic.name}, against its label`,
    plastics: `${mold.name} in its plastics`,
    runs: `${mold.name}, ${plastic.name}, run by run`,
    wear: `${mold.name}, ${plastic.name}, new to worn`,
    weight: `${mold.name}, ${plastic.name}, light and heavy`,
    molds: `${mold.name} beside its like`,
    arms: `${mold.name} for another arm`,
    wind: `${mold.name} in the wind`,
    ground: `${mold.name} on the ground`,
    'short game': `${mold.name} from short range`,
  }
  return names[kind]
}
