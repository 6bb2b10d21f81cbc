import { useState } from 'react'
import type { ChangeEvent } from 'react'
import { useForm } from 'react-hook-form'
import type { Control, Path, UseFormReturn } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { v7 as newId } from 'uuid'
import { DiscEntry, WEAR_STATES } from '../../../contract/shelf.ts'
import { DISC_CLASS_WORDS, SOURCE_WORDS } from '../../../core/shelf/kinds.ts'
import type { DiscClass } from '../../../core/shelf/kinds.ts'
import type { Disc, PublishedNumbers, Shelf } from '../../../contract/shelf.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { outbox } from '../../data/outbox.ts'
import { sameName, Lineage } from '../../../core/shelf/lineage.ts'
import { numbersLine } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { say } from '../../data/say.ts'
import { useAddresses } from '../../parts/StationLink.tsx'
import { plainOptions, wordedOptions } from '../../parts/Select.tsx'
import { SelectField } from '../../parts/SelectField.tsx'

/** Four numbers while they are typed: all given, or none. */
type NumbersDraft = { readonly [K in keyof PublishedNumbers]: number | null }
const NONE: NumbersDraft = { speed: null, glide: null, turn: null, fade: null }
const KEYS = ['speed', 'glide', 'turn', 'fade'] as const
const given = (n: NumbersDraft): PublishedNumbers | null =>
  KEYS.every((k) => n[k] === null) ? null : (n as PublishedNumbers)

interface Draft {
  readonly code: string
  readonly maker: string
  readonly mold: string
  readonly plastic: string
  readonly run: string
  readonly discClass: DiscClass
  readonly moldNumbers: NumbersDraft
  readonly plasticNumbers: NumbersDraft
  readonly runNumbers: NumbersDraft
  readonly stamped: NumbersDraft
  readonly markedG: number | null
  readonly weighedG: number | null
  readonly source: Disc['source']
  readonly provenance: string
  readonly acquiredOn: string
  readonly wear: Disc['wear']
  readonly note: string
}

const draftOf = (d: ShelvedDisc | undefined): Draft => ({
  code: d?.disc.code ?? '',
  maker: d?.maker.name ?? '',
  mold: d?.mold.name ?? '',
  plastic: d?.plastic.name ?? '',
  run: d?.run?.name ?? '',
  discClass: d?.mold.discClass ?? 'fairway-driver',
  moldNumbers: d?.mold.numbers ?? NONE,
  plasticNumbers: d?.plastic.numbers ?? NONE,
  runNumbers: d?.run?.numbers ?? NONE,
  stamped: d?.disc.stamped ?? NONE,
  markedG: d?.disc.markedG ?? null,
  weighedG: d?.disc.weighedG ?? null,
  source: d?.disc.source ?? 'bought',
  provenance: d?.disc.provenance ?? '',
  acquiredOn: d?.disc.acquiredOn ?? '',
  wear: d?.disc.wear ?? 'new',
  note: d?.disc.note ?? '',
})

/** What is named and not yet there is made; what is there is found by its name and takes the numbers typed. */
function entryOf(draft: Draft, shelf: Shelf, old: Disc | undefined) {
  const lineage = new Lineage<Shelf>(shelf)
  const maker = lineage.find('makers', null, draft.maker) ?? { id: newId(), name: draft.maker }
  const mold = lineage.find('molds', maker.id, draft.mold)
  const moldId = mold?.id ?? newId()
  const plastic = lineage.find('plastics', moldId, draft.plastic)
  const plasticId = plastic?.id ?? newId()
  const run = lineage.find('runs', plasticId, draft.run)
  const runId = run?.id ?? newId()
  const id = old?.id ?? newId()
  return {
    id,
    disc: {
      id,
      code: draft.code,
      plasticId,
      runId: draft.run.trim() === '' ? null : runId,
      stamped: given(draft.stamped),
      markedG: draft.markedG,
      weighedG: draft.weighedG,
      source: draft.source,
      provenance: draft.provenance,
      acquiredOn: draft.acquiredOn === '' ? null : draft.acquiredOn,
      wear: draft.wear,
      note: draft.note,
      removedAt: old?.removedAt ?? null,
      ...(old?.version !== undefined && { version: old.version }),
    },
    maker,
    mold: {
      id: moldId,
      makerId: maker.id,
      name: mold?.name ?? draft.mold,
      discClass: draft.discClass,
      numbers: draft.moldNumbers,
    },
    plastic: {
      id: plasticId,
      moldId,
      name: plastic?.name ?? draft.plastic,
      numbers: given(draft.plasticNumbers),
      claims: plastic?.claims ?? [],
    },
    ...(draft.run.trim() !== '' && {
      run: { id: runId, plasticId, name: run?.name ?? draft.run, numbers: given(draft.runNumbers) },
    }),
  }
}

/** Where the form shows what is wrong with a place in the entry. */
const fieldAt = (path: string): Path<Draft> =>
  (path
    .replace(/^(maker|mold|plastic|run)\.name$/, '$1')
    .replace(/^(mold|plastic|run)\.numbers/, '$1Numbers')
    .replace(/^mold\.discClass$/, 'discClass')
    .replace(/^disc\./, '') || 'root') as Path<Draft>

interface DiscFormProps {
  readonly shelf: Shelf
  readonly disc: ShelvedDisc | undefined
  readonly onClose: () => void
}

/** Adds or edits a disc, with the mold, plastic and run above it. */
export function DiscForm({ shelf, disc: now, onClose }: DiscFormProps) {
  // what is typed changes the disc as it was when the form was opened, whatever others write meanwhile
  const [disc] = useState(now)
  const go = useNavigate()
  const to = useAddresses()
  const { control, register, handleSubmit, formState, watch, setValue, setError } = useForm<Draft>({
    defaultValues: draftOf(disc),
  })
  const { errors, isSubmitting } = formState
  const draft = watch()

  const { molds, mold, plastics, runs, nameMold, namePlastic, nameRun } = kinOf(shelf, draft, setValue)
  const named = (
    name: 'maker' | 'mold' | 'plastic' | 'run',
    label: string,
    onNamed?: (v: string) => void,
  ) => (
    <TextInput
      label={label}
      list={`${name}s`}
      {...register(name, { onChange: (e: ChangeEvent<HTMLInputElement>) => onNamed?.(e.target.value) })}
      error={errors[name]?.message}
    />
  )

  const keep = async (filled: Draft) => {
    const read = DiscEntry.safeParse(entryOf(filled, shelf, disc?.disc))
    if (!read.success) {
      for (const i of read.error.issues) setError(fieldAt(i.path.join('.')), { message: i.message })
      return
    }
    const { disc: row } = read.data
    // the shelf knows codes that wait too, so that nobody hears of it only when it is sent
    if (shelf.discs.some((d) => d.id !== row.id && d.code.toLowerCase() === row.code.toLowerCase())) {
      setError('code', { message: 'is on the shelf already; every disc has a code of its own' })
      return
    }
    await outbox.put('entries', read.data)
    say(`${row.code} is on the shelf.`)
    onClose()
    void go(to('shelf/disc', { discId: row.id })!)
  }

  return (
    <Dialog open onClose={onClose} title={disc ? `Edit ${disc.disc.code}` : 'Add a disc'} wide>
      <form className="space-y-4" noValidate onSubmit={(e) => void handleSubmit(keep)(e)}>
        <div className="grid gap-3 sm:grid-cols-3">
          <TextInput label="Code" autoFocus {...register('code')} error={errors.code?.message} />
          {named('maker', 'Maker')}
          {named('mold', 'Mold', nameMold)}
          {named('plastic', 'Plastic', namePlastic)}
          {named('run', 'Run or batch, if known', nameRun)}
          <SelectField
            label="Class"
            control={control}
            name="discClass"
            options={wordedOptions(DISC_CLASS_WORDS)}
          />
        </div>
        <Known id="makers" names={shelf.makers} />
        <Known id="molds" names={molds} />
        <Known id="plastics" names={plastics} />
        <Known id="runs" names={runs} />

        <div className="grid gap-3 sm:grid-cols-2">
          <Numbers
            control={control}
            of="moldNumbers"
            title={`Published for ${draft.mold || 'the mold'}`}
            hint={
              mold
                ? `On the shelf: ${numbersLine(mold.numbers)}. A change holds for every disc of it.`
                : 'What the maker prints for the mold.'
            }
          />
          <Numbers
            control={control}
            of="plasticNumbers"
            title={`For ${draft.plastic || 'this plastic'}`}
            hint="Only if the maker gives others for this plastic."
          />
          {draft.run.trim() !== '' && (
            <Numbers
              control={control}
              of="runNumbers"
              title={`For ${draft.run}`}
              hint="Only if the maker gives others for this run."
            />
          )}
          <Numbers
            control={control}
            of="stamped"
            title="Stamped on this disc"
            hint="These win over all others."
          />
        </div>

        <Itself control={control} register={register} errors={errors} />
        {errors.root && (
          <p role="alert" className="font-medium text-accent">
            {errors.root.message}
          </p>
        )}
        <Button kind="primary" type="submit" disabled={isSubmitting}>
          {disc ? 'Keep the changes' : 'Put it on the shelf'}
        </Button>
      </form>
    </Dialog>
  )
}

/** What is on the shelf under the names that were typed, and what naming one of them brings along. */
function kinOf(shelf: DiscFormProps['shelf'], draft: Draft, setValue: UseFormReturn<Draft>['setValue']) {
  const maker = shelf.makers.find((m) => sameName(m.name, draft.maker))
  const molds = shelf.molds.filter((m) => m.makerId === maker?.id)
  const mold = molds.find((m) => sameName(m.name, draft.mold))
  const plastics = shelf.plastics.filter((p) => p.moldId === mold?.id)
  const plastic = plastics.find((p) => sameName(p.name, draft.plastic))
  const runs = shelf.runs.filter((r) => r.plasticId === plastic?.id)

  // naming what is on the shelf brings its numbers along
  const bring = (change: Partial<Draft>) => {
    for (const [key, value] of Object.entries(change)) setValue(key as keyof Draft, value)
  }
  const nameMold = (name: string) => {
    const known = molds.find((m) => sameName(m.name, name))
    if (known) bring({ moldNumbers: known.numbers, discClass: known.discClass })
  }
  const namePlastic = (name: string) => {
    const known = plastics.find((p) => sameName(p.name, name))
    if (known) bring({ plasticNumbers: known.numbers ?? NONE })
  }
  const nameRun = (name: string) => {
    const known = runs.find((r) => sameName(r.name, name))
    if (known) bring({ runNumbers: known.numbers ?? NONE })
  }
  return { molds, mold, plastics, runs, nameMold, namePlastic, nameRun }
}

/** Names that are on the shelf, offered while one types. */
const Known = ({
  id,
  names,
}: {
  readonly id: string
  readonly names: readonly { readonly name: string }[]
}) => (
  <datalist id={id}>
    {names.map(({ name }) => (
      <option key={name} value={name} />
    ))}
  </datalist>
)

interface NumbersProps {
  readonly control: Control<Draft>
  readonly of: 'moldNumbers' | 'plasticNumbers' | 'runNumbers' | 'stamped'
  readonly title: string
  readonly hint: string
}

/** Four published numbers, all of them or none. */
const Numbers = ({ control, of, title, hint }: NumbersProps) => (
  <fieldset className="rounded-lg border border-rule p-3">
    <legend className="px-1 text-note font-semibold">{title}</legend>
    <p className="mb-2 text-note text-quiet">{hint}</p>
    <div className="grid grid-cols-4 gap-2">
      {KEYS.map((k) => (
        <FigureField key={k} control={control} name={`${of}.${k}`} label={k} digits={2} signed />
      ))}
    </div>
  </fieldset>
)

type ItselfProps = Pick<UseFormReturn<Draft>, 'control' | 'register'> & {
  readonly errors: UseFormReturn<Draft>['formState']['errors']
}

/** What is known of this one disc: its weight, its wear, where it came from. */
const Itself = ({ control, register, errors }: ItselfProps) => (
  <>
    <div className="grid gap-3 sm:grid-cols-4">
      <FigureField control={control} name="markedG" label="Marked weight" unit="g" />
      <FigureField control={control} name="weighedG" label="On the scale" unit="g" />
      <SelectField label="Wear" control={control} name="wear" options={plainOptions(WEAR_STATES)} />
      <SelectField
        label="Came from"
        control={control}
        name="source"
        hint="A review discloses it"
        options={wordedOptions(SOURCE_WORDS)}
      />
    </div>
    <div className="grid gap-3 sm:grid-cols-[1fr_1fr_12rem]">
      <TextInput label="Note" {...register('note')} error={errors.note?.message} />
      <TextInput label="From whom" {...register('provenance')} error={errors.provenance?.message} />
      <TextInput label="Since" type="date" {...register('acquiredOn')} error={errors.acquiredOn?.message} />
    </div>
  </>
)
