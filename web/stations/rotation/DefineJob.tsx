import { useReducer } from 'react'
import type { Dispatch } from 'react'
import { v7 as newId } from 'uuid'
import { fadeSign } from '../../../core/flight/hand.ts'
import type { JobFlight } from '../../../core/rotation/job.ts'
import { flyingNumbersOf } from '../../../contract/rotation.ts'
import type { Board, JobRow } from '../../../contract/rotation.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { useThrowers } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureInput, TextInput } from '../../parts/Inputs.tsx'
import { say } from '../../data/say.ts'
import { draftFrom, jobAfter, readJob } from './jobDraft.ts'
import type { JobDraft, JobEvent } from './jobDraft.ts'
import { WantedStrip } from './WantedStrip.tsx'
import { Select } from '../../parts/Select.tsx'

interface DefineJobProps {
  readonly board: Board
  /** The one that is changed; otherwise it is a new one. */
  readonly job: JobRow | undefined
  readonly onClose: () => void
}

/** What a disc is wanted for: by whose arm, thrown how, flying where, and how far from it is near enough. */
export function DefineJob({ board, job, onClose }: DefineJobProps) {
  const { throwers = [] } = useThrowers()
  const [draft, tell] = useReducer(jobAfter, undefined, () =>
    draftFrom(newId(), 1 + Math.max(0, ...board.jobs.map((j) => j.rank)), job),
  )
  const { row, wrong } = draft
  const keep = async () => {
    const read = readJob(draft)
    if ('wrong' in read) return tell({ did: 'found wrong', wrong: read.wrong })
    await outbox.put('jobs', read.row)
    say(job ? `${read.row.name} was changed.` : `${read.row.name} is on the board.`)
    onClose()
  }
  const remove = async () => {
    await outbox.put('jobs', { ...row, removedAt: new Date().toISOString() })
    say(`${row.name} was taken off the board.`, {
      label: 'Undo',
      run: () => void outbox.put('jobs', { ...row, removedAt: null }),
    })
    onClose()
  }
  const thrower = throwers.find((t) => t.id === row.throwerId)
  const fade = thrower && fadeSign(thrower.hand, 'backhand') > 0 ? 'right' : 'left'
  return (
    <Dialog open onClose={onClose} title={job ? `Change ${job.name}` : 'New job'} wide>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextInput
          label="What the disc is for"
          placeholder="Late turn driver"
          value={row.name}
          error={wrong['name']}
          onChange={(e) => tell({ did: 'named', name: e.target.value })}
        />
        <Arm {...{ draft, tell, throwers }} />
      </div>
      <HowThrown {...{ draft, tell, board }} />
      <WantedStrip
        wanted={row.wanted}
        within={row.within}
        fade={fade}
        onDraw={(wanted) => tell({ did: 'drew', wanted })}
      />
      <div className="grid grid-cols-3 gap-3">
        <Metres {...{ draft, tell }} of="wanted" part="at60M" label="At 60 %, to the fade side" />
        <Metres {...{ draft, tell }} of="wanted" part="finishM" label="Finishes, to the fade side" />
        <Metres {...{ draft, tell }} of="wanted" part="carryM" label="Carry" />
        <Metres {...{ draft, tell }} of="within" part="at60M" label={NEAR} />
        <Metres {...{ draft, tell }} of="within" part="finishM" label={NEAR} />
        <Metres
          {...{ draft, tell }}
          of="within"
          part="carryM"
          label={NEAR}
          hint="Empty where the carry does not matter."
        />
      </div>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {job && (
          <Button kind="quiet" className="mr-auto" onClick={() => void remove()}>
            Take it off the board
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="primary" onClick={() => void keep()}>
          {job ? 'Keep the change' : 'Put it on the board'}
        </Button>
      </div>
    </Dialog>
  )
}
const NEAR = 'Near enough, either way'

interface DraftProps {
  readonly draft: JobDraft
  readonly tell: Dispatch<JobEvent>
}

function Arm({ draft, tell, throwers }: DraftProps & { readonly throwers: readonly Thrower[] }) {
  const { speed } = useUnits()
  const arms = throwers.flatMap(({ id, name, backhandMps: mps }) => (mps === null ? [] : [{ id, name, mps }]))
  return (
    <Select
      label="At whose arm"
      value={draft.row.throwerId}
      onChange={(v) => tell({ did: 'chose arm', thrower: arms.find((t) => t.id === v) })}
      options={[
        { value: null, words: 'The arm the numbers are made for' },
        ...arms.map((t) => ({ value: t.id, words: `${t.name}, ${speed.show(t.mps, 0)}` })),
      ]}
    />
  )
}

/** Which disc it flies as, and how it is thrown. */
function HowThrown({ draft, tell, board }: DraftProps & { readonly board: Board }) {
  const { speed } = useUnits()
  const { row, wrong, like } = draft
  const { hyzerDeg, power, windAlongMps } = row.throwing
  const threw = (change: Partial<JobRow['throwing']>) => tell({ did: 'threw otherwise', change })
  return (
    <div className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-[1fr_7rem_7rem_8rem]">
      <Select
        label="Flies as this disc does now"
        className="max-sm:col-span-2"
        value={like?.id ?? null}
        onChange={(v) => {
          const disc = board.discs.find((d) => d.id === v)
          tell({ did: 'chose disc', like: disc && { id: disc.id, numbers: flyingNumbersOf(disc) } })
        }}
        options={[
          { value: null, words: 'Drawn by hand' },
          ...board.discs
            .filter((d) => d.tests.length > 0 || d.jobId !== null)
            .map((d) => ({ value: d.id, words: `${d.code}, ${d.mold} ${d.plastic}` })),
        ]}
      />
      <FigureInput
        signed
        label="Hyzer"
        unit="°"
        digits={0}
        value={hyzerDeg}
        error={wrong['throwing.hyzerDeg']}
        onChange={(v) => threw({ hyzerDeg: v ?? 0 })}
      />
      <FigureInput
        label="Power"
        unit="%"
        digits={0}
        value={100 * power}
        error={wrong['throwing.power']}
        onChange={(v) => threw({ power: (v ?? 100) / 100 })}
      />
      <FigureInput
        signed
        label="Into a wind of"
        unit={speed.unit}
        value={speed.to(-windAlongMps)}
        error={wrong['throwing.windAlongMps']}
        onChange={(v) => threw({ windAlongMps: v === null || v === 0 ? 0 : -speed.from(v) })}
      />
    </div>
  )
}

interface MetresProps extends DraftProps {
  readonly of: 'wanted' | 'within'
  readonly part: keyof JobFlight
  readonly label: string
  readonly hint?: string
}

function Metres({ draft: { row, wrong }, tell, of, part, label, hint }: MetresProps) {
  const { length } = useUnits()
  const value = row[of][part]
  return (
    <FigureInput
      label={label}
      unit={length.unit}
      value={value === null ? null : length.to(value)}
      {...(hint !== undefined && { hint })}
      error={wrong[`${of}.${part}`]}
      onChange={(v) => tell({ did: 'measured', of, part, m: v === null ? null : length.from(v) })}
    />
  )
}
