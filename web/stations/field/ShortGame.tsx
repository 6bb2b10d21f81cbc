import { useMemo, useReducer, useState } from 'react'
import type { Dispatch } from 'react'
import { useKey } from '../../parts/keys.ts'
import { SHORT_GAME_KEYS } from './keys.ts'
import { useSearchParams } from 'react-router'
import { v7 as newId } from 'uuid'
import { GAMES, MISSES, PUTT_STYLES } from '../../../core/throw/short.ts'
import type { Game, ShortObserved } from '../../../core/throw/short.ts'
import type { ShortThrow } from '../../../contract/trials.ts'
import { ShortSummary } from '../../charts/ShortSummary.tsx'
import { useShortThrows, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { lastMadeHere, NONE_HERE, noteMade } from '../../data/made.ts'
import { onceAnId } from '../../data/once.ts'
import { outbox } from '../../data/outbox.ts'
import { outingOf } from '../../data/outing.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { Chip, Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { StationLink } from '../../parts/StationLink.tsx'
import { emptyLog, logAfter, shortThrowOf } from './shortLog.ts'
import type { ShortEvent } from './shortLog.ts'
import { Select, plainOptions } from '../../parts/Select.tsx'
import { ThrowerSelect } from '../../parts/ThrowerSelect.tsx'
import { looksById } from '../../strip/hues.ts'

const GAME_WORDS: Record<Game, { readonly label: string; readonly asks: string }> = {
  ground: {
    label: 'Ground play',
    asks: 'The same shot with every disc: how far does it go on after it touched the ground?',
  },
  approach: {
    label: 'Approach',
    asks: 'Throw to a mark: how far past it, or short of it, does it come to rest?',
  },
  putting: { label: 'Putting', asks: 'From where, and was it made? If not, where did it miss?' },
  holes: {
    label: 'Holes',
    asks: 'The same holes with each disc: strokes, and where the throw from the tee lay.',
  },
}

export default function ShortGame({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  if (error && !view) return <TroubleNote error={error} />
  if (!view) return <WaitingNote what="the trial" />
  if (view.throwers.length === 0)
    return (
      <Empty title="Who throws?">
        <StationLink at="settings" className="underline underline-offset-4">
          Add a thrower
        </StationLink>{' '}
        first.
      </Empty>
    )
  return <Short view={view} />
}

/** Logs throws of a game of a trial, one after the other. */
function useShortLog(view: TrialView, game: Game) {
  const { trial, discs, throwers } = view
  const throws = useShortThrows(trial.id)
  const own = throws.filter((t) => t.game === game)
  const [log, tell] = useReducer(logAfter, undefined, () =>
    emptyLog(
      newId(),
      discs[0]?.disc.id ?? '',
      // whoever threw last
      (throws.at(-1) ?? view.throws.at(-1))?.throwerId ?? throwers[0]!.id,
    ),
  )
  const [once] = useState(onceAnId)
  const [session] = useState(() => outingOf(view, throws.length > 0 ? throws : view.throws, 'paced'))
  const keep = async (change: Partial<ShortObserved> = {}) => {
    const seen = { ...log.seen, ...change }
    const thrownAt = new Date().toISOString()
    const at = { trialId: trial.id, sessionId: session.id, game, thrownAt }
    const read = shortThrowOf(log, seen, at)
    if (typeof read === 'string') return sayWrong(read)
    const isNow = await once(read.id, async () => {
      if (!view.sessions.some((s) => s.id === session.id)) await outbox.put('sessions', session)
      await outbox.put('short-throws', read)
    })
    if (!isNow) return
    noteMade(trial.id, read.id)
    tell({ did: 'kept', game, seen, discIds: discs.map((d) => d.disc.id), nextId: newId() })
  }
  const takeBack = async () => {
    const last = lastMadeHere(trial.id, own)
    if (!last) return sayWrong(NONE_HERE)
    await outbox.put('short-throws', {
      ...last,
      takenBackAt: new Date().toISOString(),
    } as ShortThrow)
    say('The last throw was taken back.', {
      label: 'Restore',
      run: () => void outbox.put('short-throws', last),
    })
  }
  const made = () => void keep({ made: true })
  const missed = () => void keep({ made: false, miss: log.seen.miss })
  useKey(SHORT_GAME_KEYS.takeBack, () => void takeBack())
  useKey(SHORT_GAME_KEYS.made, () => game === 'putting' && made())
  useKey(SHORT_GAME_KEYS.missed, () => game === 'putting' && missed())
  return { throws, own, log, tell, keep: () => void keep(), takeBack: () => void takeBack(), made, missed }
}

function Short({ view }: { view: TrialView }) {
  const { trial, discs } = view
  const [params, setParams] = useSearchParams()
  const game = GAMES.find((g) => g === params.get('game')) ?? 'ground'
  const logging = useShortLog(view, game)
  const { throws, own, log, tell } = logging
  const names = useMemo(() => trialNames(discs), [discs])
  const name = (code: string) => names.get(code) ?? code
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 p-3 md:p-4 lg:grid-cols-[24rem_minmax(0,1fr)]">
      <Card className="content-start p-4" label="Log it">
        <div className="mb-2 flex items-baseline gap-3">
          <h1 className="mr-auto text-title">{GAME_WORDS[game].label}</h1>
          <StationLink at="field" params={{ trialId: trial.id }} className={buttonLook('quiet')}>
            Field
          </StationLink>
        </div>
        <Choice
          label="Game"
          value={game}
          options={GAMES.map((g) => ({ value: g, label: GAME_WORDS[g].label }))}
          onChange={(g) => {
            tell({ did: 'chose game' })
            setParams({ game: g }, { replace: true })
          }}
        />
        <p className="mt-2 mb-3 text-quiet">{GAME_WORDS[game].asks}</p>
        <form
          className="space-y-3"
          noValidate
          onSubmit={(e) => {
            e.preventDefault()
            if (game === 'putting') logging.made()
            else logging.keep()
          }}
        >
          <div className="flex flex-wrap gap-1.5" role="group" aria-label="Disc">
            {discs.map(({ disc: { id, code } }) => (
              <Chip key={id} on={id === log.discId} onClick={() => tell({ did: 'chose disc', discId: id })}>
                <span className="flex items-center gap-1.5">
                  <DiscDot look={looksById(discs)(id)} size={14} /> {name(code)}
                </span>
              </Chip>
            ))}
          </div>
          <div className="grid items-end gap-3 sm:grid-cols-2">
            <Entry game={game} seen={log.seen} tell={tell} />
          </div>
          <ThrowerSelect
            label="Thrown by"
            value={log.throwerId}
            throwers={view.throwers}
            onChange={(v) => tell({ did: 'chose thrower', throwerId: v })}
          />
          <Keeping game={game} logging={logging} />
        </form>
      </Card>
      <Card className="p-4" label="What it says">
        <h2 className="mb-2 text-lead">
          What it says{' '}
          <span className="font-sans text-note font-normal text-quiet">
            {own.length} {own.length === 1 ? 'throw' : 'throws'}, 90 % intervals
          </span>
        </h2>
        <ShortSummary game={game} throws={throws} discs={discs} name={name} />
      </Card>
    </div>
  )
}

function Keeping({ game, logging }: { game: Game; logging: ReturnType<typeof useShortLog> }) {
  const { own, takeBack, missed } = logging
  return (
    <div className="flex gap-2">
      <Button className="max-md:min-h-14" keyHint="U" disabled={own.length === 0} onClick={takeBack}>
        Take back
      </Button>
      {game === 'putting' ? (
        <>
          <Button className="flex-1 max-md:min-h-14" keyHint="X" onClick={missed}>
            Missed
          </Button>
          <Button kind="primary" type="submit" keyHint="M" className="flex-1 max-md:min-h-14">
            Made
          </Button>
        </>
      ) : (
        <Button kind="primary" type="submit" keyHint="↵" className="flex-1 max-md:min-h-14">
          Keep
        </Button>
      )}
    </div>
  )
}

interface SeenProps {
  readonly seen: ShortObserved
  readonly tell: Dispatch<ShortEvent>
}

/** What is seen of a throw of a game. */
function Entry({ game, ...props }: SeenProps & { readonly game: Game }) {
  switch (game) {
    case 'ground':
      return <Length {...props} of="groundM" label="From first contact to rest" />
    case 'approach':
      return <Approach {...props} />
    case 'putting':
      return <Putting {...props} />
    case 'holes':
      return <Hole {...props} />
  }
}

function Length({
  seen,
  tell,
  of,
  label,
}: SeenProps & { readonly of: 'distanceM' | 'groundM' | 'lieM'; readonly label: string }) {
  const { length } = useUnits()
  const value = seen[of]
  return (
    <FigureInput
      label={label}
      unit={length.unit}
      value={value === null ? null : length.to(value)}
      onChange={(v) => tell({ did: 'saw', change: { [of]: v === null ? null : length.from(v) } })}
    />
  )
}

interface OffsetProps extends SeenProps {
  readonly of: 'pastM' | 'rightM'
  readonly label: string
  readonly minus: string
  readonly plus: string
}

/** A distance one way or the other of the mark. */
function Offset({ seen, tell, of, label, minus, plus }: OffsetProps) {
  const { length } = useUnits()
  const value = seen[of]
  const sign = value !== null && (value < 0 || Object.is(value, -0)) ? -1 : 1
  const see = (m: number | null) => tell({ did: 'saw', change: { [of]: m } })
  return (
    <div className="grid grid-cols-[1fr_auto] items-end gap-1.5">
      <FigureInput
        label={label}
        unit={length.unit}
        value={value === null ? null : Math.abs(length.to(value))}
        onChange={(v) => see(v === null ? null : sign * length.from(Math.abs(v)))}
      />
      <Select
        hideLabel
        label={`${label}, which way`}
        value={sign}
        onChange={(v) => see(v * Math.abs(value ?? 0))}
        options={[
          { value: 1, words: plus },
          { value: -1, words: minus },
        ]}
      />
    </div>
  )
}

/** Efforts that are told apart, as shares of full power. */
const EFFORTS = [0.3, 0.5, 0.7, 0.85, 1]

function Approach({ seen, tell }: SeenProps) {
  return (
    <>
      <Length {...{ seen, tell }} of="distanceM" label="To the mark" />
      <Offset {...{ seen, tell }} of="pastM" label="It came to rest" minus="short" plus="past" />
      <Offset {...{ seen, tell }} of="rightM" label="aside" minus="left" plus="right" />
      <Select
        label="Effort"
        value={seen.effort}
        onChange={(v) => tell({ did: 'saw', change: { effort: v } })}
        options={[
          { value: null, words: 'not said' },
          ...EFFORTS.map((p) => ({ value: p, words: `${Math.round(100 * p)} %` })),
        ]}
      />
    </>
  )
}

function Putting({ seen, tell }: SeenProps) {
  return (
    <>
      <Length {...{ seen, tell }} of="distanceM" label="From" />
      <Select
        label="Style"
        value={seen.style}
        onChange={(v) => tell({ did: 'saw', change: { style: v } })}
        options={[{ value: null, words: 'not said' }, ...plainOptions(PUTT_STYLES)]}
      />
      <div className="sm:col-span-2" role="group" aria-label="If it misses">
        <p className="mb-1 text-note text-quiet">If it misses</p>
        <div className="flex flex-wrap gap-1.5">
          {MISSES.map((m) => (
            <Chip
              key={m}
              on={seen.miss === m}
              onClick={() => tell({ did: 'saw', change: { miss: seen.miss === m ? null : m } })}
            >
              {m}
            </Chip>
          ))}
        </div>
      </div>
    </>
  )
}

function Hole({ seen, tell }: SeenProps) {
  return (
    <>
      <FigureInput
        label="Hole"
        digits={0}
        value={seen.hole}
        onChange={(hole) => tell({ did: 'saw', change: { hole } })}
      />
      <FigureInput
        label="Strokes"
        digits={0}
        value={seen.strokes}
        onChange={(strokes) => tell({ did: 'saw', change: { strokes } })}
      />
      <Length {...{ seen, tell }} of="lieM" label="Left after the tee throw" />
    </>
  )
}
