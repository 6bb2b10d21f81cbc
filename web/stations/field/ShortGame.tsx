import { useMemo, useState } from 'react'
import type { ReactNode } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useSearchParams } from 'react-router'
import { v7 as newId } from 'uuid'
import {
  GAMES,
  MISSES,
  NOTHING_OF_SHORT,
  PUTT_STYLES,
  seenInGame,
  stayingOf,
} from '../../../core/throw/short.ts'
import type { Game, ShortObserved } from '../../../core/throw/short.ts'
import { ShortThrow } from '../../../contract/trials.ts'
import { wrongWords } from '../../../contract/words.ts'
import { ShortSummary } from '../../charts/ShortSummary.tsx'
import { useShortThrows, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { lastMadeHere, NONE_HERE, noteMade } from '../../data/made.ts'
import { outbox } from '../../data/outbox.ts'
import { outingOf } from '../../data/outing.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { Chip, Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { FigureInput, SelectInput } from '../../parts/Inputs.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { StationLink } from '../../parts/StationLink.tsx'

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
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the trial" />
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

/** What is seen of one throw of the game; what holds from throw to throw stays. */
type Draft = ShortObserved
const NOTHING: Draft = { ...NOTHING_OF_SHORT, hole: 1 }

function Short({ view }: { view: TrialView }) {
  const { trial, discs } = view
  const units = useUnits()
  const [params, setParams] = useSearchParams()
  const game = GAMES.find((g) => g === params.get('game')) ?? 'ground'
  const throws = useShortThrows(trial.id)
  const own = throws.filter((t) => t.game === game)
  const names = useMemo(() => trialNames(discs), [discs])
  const name = (code: string) => names.get(code) ?? code
  const [discId, setDiscId] = useState(discs[0]?.disc.id ?? '')
  const [throwerId, setThrowerId] = useState(view.throwers[0]!.id)
  const [draft, setDraft] = useState(NOTHING)
  const see = (change: Partial<Draft>) => setDraft((d) => ({ ...d, ...change }))
  const [session] = useState(() => outingOf(view, throws.length > 0 ? throws : view.throws, 'paced'))

  const keep = async (change: Partial<Draft> = {}) => {
    const seen = { ...draft, ...change }
    const read = ShortThrow.safeParse({
      id: newId(),
      trialId: trial.id,
      sessionId: session.id,
      discId,
      throwerId,
      thrownAt: new Date().toISOString(),
      game,
      ...seenInGame(game, seen),
      takenBackAt: null,
    })
    if (!read.success) return sayWrong(`${wrongWords(read.error.issues[0]!)}.`)
    if (!view.sessions.some((s) => s.id === session.id)) await outbox.put('sessions', session)
    await outbox.put('short-throws', read.data)
    noteMade(trial.id, read.data.id)
    // distance, effort, style and hole hold for the next; what was seen does not
    setDraft(stayingOf(seen))
    // the same shot goes round the discs
    const at = discs.findIndex((d) => d.disc.id === discId)
    if (game !== 'putting') setDiscId(discs[(at + 1) % discs.length]!.disc.id)
    if (game === 'holes' && at === discs.length - 1) see({ hole: Math.min(36, (seen.hole ?? 0) + 1) })
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
  useHotkeys('u', () => void takeBack())
  useHotkeys('m', () => game === 'putting' && void keep({ made: true }))
  useHotkeys('x', () => game === 'putting' && void keep({ made: false, miss: draft.miss }))

  const length = (key: 'distanceM' | 'groundM' | 'lieM', label: string) => (
    <FigureInput
      label={label}
      unit={units.length.unit}
      value={draft[key] === null ? null : units.length.to(draft[key])}
      onChange={(v) => see({ [key]: v === null ? null : units.length.from(v) })}
    />
  )
  /** A distance one way or the other of the mark. */
  const offset = (key: 'pastM' | 'rightM', label: string, minus: string, plus: string) => {
    const value = draft[key]
    const sign = value !== null && (value < 0 || Object.is(value, -0)) ? -1 : 1
    return (
      <div className="grid grid-cols-[1fr_auto] items-end gap-1.5">
        <FigureInput
          label={label}
          unit={units.length.unit}
          value={value === null ? null : Math.abs(units.length.to(value))}
          onChange={(v) => see({ [key]: v === null ? null : sign * units.length.from(Math.abs(v)) })}
        />
        <select
          aria-label={`${label}, which way`}
          className="min-h-10 rounded-lg border border-edge bg-card px-1.5 max-md:min-h-11"
          value={sign}
          onChange={(e) => see({ [key]: Number(e.target.value) * Math.abs(value ?? 0) })}
        >
          <option value={1}>{plus}</option>
          <option value={-1}>{minus}</option>
        </select>
      </div>
    )
  }
  const entry: Record<Game, ReactNode> = {
    ground: length('groundM', 'From first contact to rest'),
    approach: (
      <>
        {length('distanceM', 'To the mark')}
        {offset('pastM', 'It came to rest', 'short', 'past')}
        {offset('rightM', 'aside', 'left', 'right')}
        <SelectInput
          label="Effort"
          value={draft.effort ?? ''}
          onChange={(e) => see({ effort: e.target.value === '' ? null : Number(e.target.value) })}
        >
          <option value="">not said</option>
          {[0.3, 0.5, 0.7, 0.85, 1].map((p) => (
            <option key={p} value={p}>
              {Math.round(100 * p)} %
            </option>
          ))}
        </SelectInput>
      </>
    ),
    putting: (
      <>
        {length('distanceM', 'From')}
        <SelectInput
          label="Style"
          value={draft.style ?? ''}
          onChange={(e) => see({ style: (e.target.value || null) as Draft['style'] })}
        >
          <option value="">not said</option>
          {PUTT_STYLES.map((p) => (
            <option key={p}>{p}</option>
          ))}
        </SelectInput>
        <div className="sm:col-span-2" role="group" aria-label="If it misses">
          <p className="mb-1 text-note text-quiet">If it misses</p>
          <div className="flex flex-wrap gap-1.5">
            {MISSES.map((m) => (
              <Chip key={m} on={draft.miss === m} onClick={() => see({ miss: draft.miss === m ? null : m })}>
                {m}
              </Chip>
            ))}
          </div>
        </div>
      </>
    ),
    holes: (
      <>
        <FigureInput label="Hole" digits={0} value={draft.hole} onChange={(hole) => see({ hole })} />
        <FigureInput
          label="Strokes"
          digits={0}
          value={draft.strokes}
          onChange={(strokes) => see({ strokes })}
        />
        {length('lieM', 'Left after the tee throw')}
      </>
    ),
  }
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
          onChange={(g) => setParams({ game: g }, { replace: true })}
        />
        <p className="mt-2 mb-3 text-quiet">{GAME_WORDS[game].asks}</p>
        <form
          className="space-y-3"
          noValidate
          onSubmit={(e) => {
            e.preventDefault()
            void keep(game === 'putting' ? { made: true } : {})
          }}
        >
          <div className="flex flex-wrap gap-1.5" role="group" aria-label="Disc">
            {discs.map((d, i) => (
              <Chip key={d.disc.id} on={d.disc.id === discId} onClick={() => setDiscId(d.disc.id)}>
                <span className="flex items-center gap-1.5">
                  <DiscDot place={i} size={14} /> {name(d.disc.code)}
                </span>
              </Chip>
            ))}
          </div>
          <div className="grid items-end gap-3 sm:grid-cols-2">{entry[game]}</div>
          {view.throwers.length > 1 && (
            <SelectInput label="Thrown by" value={throwerId} onChange={(e) => setThrowerId(e.target.value)}>
              {view.throwers.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </SelectInput>
          )}
          <div className="flex gap-2">
            <Button
              className="max-md:min-h-14"
              keyHint="U"
              disabled={own.length === 0}
              onClick={() => void takeBack()}
            >
              Take back
            </Button>
            {game === 'putting' ? (
              <>
                <Button
                  className="flex-1 max-md:min-h-14"
                  keyHint="X"
                  onClick={() => void keep({ made: false, miss: draft.miss })}
                >
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
