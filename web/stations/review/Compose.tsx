import type { Editor } from '@tiptap/react'
import clsx from 'clsx'
import { useCallback, useEffect, useEffectEvent, useMemo, useReducer, useRef, useState } from 'react'
import type { Dispatch, ReactNode } from 'react'
import { v7 as newId } from 'uuid'
import { FROM_ANOTHER_DEVICE } from '../../../contract/reviews.ts'
import type { ReviewFile, ReviewSection } from '../../../contract/reviews.ts'
import type { Judged, Verdict } from '../../../core/review/judged.ts'
import { UNITS } from '../../../contract/preferences.ts'
import { listed } from '../../../core/judge/answers/answer.ts'
import { UnitsIn } from '../../data/preferences.tsx'
import type { Composing, ComposeEvent } from './composing.ts'
import { outbox } from '../../data/outbox.ts'
import { NoPicture, photoOf } from '../../data/pictures.ts'
import { useReview } from '../../data/reviews.ts'
import { useChanges } from '../../data/useChanges.ts'
import { useAsked } from '../../data/useAsked.ts'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { askRating } from '../../workers/rating.ts'
import { ClaimsOfSection, ClaimsPanel } from './ClaimsPanel.tsx'
import {
  asFilled,
  claimsOfSections,
  composingAfter,
  NOTHING_READ,
  ownSection,
  refilled,
  saysFigures,
  shownSections,
  verdictWords,
} from './composing.ts'
import type { ClaimsPanelProps, PlacedClaim } from './ClaimsPanel.tsx'
import { claimKey } from './editor/claimMarks.ts'
import type { MarkedClaim, Namings } from './editor/claimMarks.ts'
import { Writing } from './editor/liveNodes.tsx'
import { SectionEditor } from './editor/SectionEditor.tsx'
import { EvidencePanel } from './Evidence.tsx'
import { NotDisclosed } from './NotDisclosed.tsx'
import { HandOut } from './HandOut.tsx'
import { Outline } from './Outline.tsx'
import { ReadSource, SourcesProvider } from './sources.tsx'
import type { Source, Sources } from './sources.tsx'
import { Toolbar } from './Toolbar.tsx'
import { VerdictForm } from './VerdictForm.tsx'

/** A review that is written: sections, claims held against the throws, and what is handed out. */
export default function Compose({ reviewId }: { trialId: string; reviewId: string }) {
  const { file, error } = useReview(reviewId)
  if (error && !file) return <TroubleNote error={error} />
  if (!file) return <WaitingNote what="the review" />
  if (file.review.removedAt !== null)
    return <Empty title="This review was taken away">It can be brought back from the list.</Empty>
  return (
    <UnitsIn kind={file.review.units}>
      <Composer file={file} />
    </UnitsIn>
  )
}

const UNIT_WORDS = { metric: 'metres', imperial: 'feet' } as const

/** What a review is written in; sections that say what they came filled with say it in the other units then. */
function useWrittenIn(
  file: ReviewFile,
  state: Composing,
  tell: Dispatch<ComposeEvent>,
  change: (section: ReviewSection, parts: readonly ['body']) => void,
) {
  const { review, sections } = file
  const anew = refilled(state, file)
  const refill = useEffectEvent(() => {
    for (const s of anew) change(s, ['body'])
    tell({ did: 'refilled' })
    const own = sections.filter((s) => !anew.some((a) => a.id === s.id) && saysFigures(s)).map((s) => s.title)
    say(
      own.length === 0
        ? 'The review is written in other units now.'
        : `${listed(own.map((t) => `“${t}”`))} ${own.length === 1 ? 'holds' : 'hold'} words of your own and ${own.length === 1 ? 'stays' : 'stay'} as written: look at the figures.`,
    )
  })
  const isRead = anew.length > 0
  useEffect(() => {
    if (isRead) refill()
  }, [isRead])
  return (units: ReviewFile['review']['units']) => {
    if (units === review.units) return
    tell({ did: 'chose units', units, sections: asFilled(state, file).map((s) => s.id) })
    void outbox.put('reviews', { ...review, units })
  }
}

/** Says when a section has come that another device wrote at the same time as one that is here. */
function useWrittenTwice(sections: readonly ReviewSection[]) {
  const known = useRef<ReadonlySet<string>>(undefined)
  useEffect(() => {
    const beside = sections.filter((s) => s.title.endsWith(FROM_ANOTHER_DEVICE))
    for (const { id, title } of beside)
      if (known.current && !known.current.has(id))
        say(
          `“${title.slice(0, -FROM_ANOTHER_DEVICE.length)}” was written on two devices at once: both stand here, one after the other.`,
        )
    known.current = new Set(beside.map((s) => s.id))
  }, [sections])
}

/** A photo that is chosen is kept with the review; its address, or a word why not. */
async function keptPhoto(reviewId: string, chosen: File): Promise<string | undefined> {
  try {
    const id = newId()
    await outbox.put('review-photos', { id, reviewId, photo: await photoOf(chosen) })
    return `/api/review-photos/${id}`
  } catch (e) {
    if (!(e instanceof NoPicture)) throw e
    sayWrong(e.message)
    return undefined
  }
}

/** What is read is there once it is drawn. */
async function drawn(): Promise<void> {
  await document.fonts.ready
  for (let frames = 0; frames < 3; frames++) await new Promise((next) => requestAnimationFrame(next))
  await new Promise((next) => setTimeout(next, 150))
}

function Composer({ file }: { file: ReviewFile }) {
  const { review, sections } = file
  const [state, tell] = useReducer(composingAfter, NOTHING_READ)
  const { mode, sources } = state
  const onSource = useCallback(
    (trial: string, source: Source | null) => tell({ did: 'read trial', trial, source }),
    [],
  )
  const [editor, setEditor] = useState<Editor>()
  const editors = useRef(new Map<string, Editor>())
  const article = useRef<HTMLElement>(null)
  useWrittenTwice(sections)
  const namings = useNamings(sources)
  const claims = claimsOfSections(state, sections)
  const judged = useJudged(claims, sources)
  const verdicts = useMemo(() => new Map([...judged].map(([key, j]) => [key, j.verdict])), [judged])
  const change = useChanges('review-sections', sections)
  const writeIn = useWrittenIn(file, state, tell, change)
  const outline = (
    <Outline
      sections={sections}
      onPlace={(s, place) => change({ ...s, place }, ['place'])}
      onHidden={(s) => change({ ...s, hidden: !s.hidden }, ['hidden'])}
      onAdd={() => change(ownSection(file, newId()))}
    />
  )
  const editorOf = ({ section }: PlacedClaim) => editors.current.get(section)?.chain().focus()
  const weighing: Omit<ClaimsPanelProps, 'claims'> = {
    judged,
    sources,
    onShow: (c) => editorOf(c)?.setTextSelection(c).scrollIntoView().run(),
    onWord: (c, words) => editorOf(c)?.insertContentAt({ from: c.from, to: c.to }, words).run(),
  }
  return (
    <SourcesProvider value={sources}>
      <Writing value={mode === 'write'}>
        {review.trialIds.map((id) => (
          <ReadSource key={id} trialId={id} onSource={onSource} />
        ))}
        <div className="grid items-start gap-4 p-3 md:p-4 lg:grid-cols-[13rem_minmax(0,1fr)] xl:grid-cols-[13rem_minmax(0,1fr)_19rem]">
          <div className="max-lg:hidden lg:sticky lg:top-16">{outline}</div>
          <div className="grid min-w-0 gap-3">
            <details className="rounded-xl border border-rule bg-card px-3 py-2 lg:hidden">
              <summary className="min-h-9 cursor-pointer font-semibold">Sections</summary>
              {outline}
            </details>
            <div className="flex flex-wrap items-center gap-3">
              <Choice
                label="Review"
                value={mode}
                onChange={(to) => tell({ did: 'chose mode', mode: to })}
                options={[
                  { value: 'write', label: 'Write' },
                  { value: 'read', label: 'Read' },
                ]}
              />
              {mode === 'write' && (
                <Choice
                  label="Written in"
                  value={review.units}
                  onChange={writeIn}
                  options={UNITS.map((value) => ({ value, label: UNIT_WORDS[value] }))}
                />
              )}
              <p className="text-note text-quiet" role="status">
                {sources.size < review.trialIds.length
                  ? 'Weighing the throws …'
                  : 'What you type is kept as you type.'}
              </p>
            </div>
            {mode === 'write' && (
              <Toolbar {...{ editor, sources }} onPhoto={(chosen) => keptPhoto(review.id, chosen)} />
            )}
            <article
              ref={article}
              className="min-w-0 rounded-xl border border-rule bg-card px-4 py-6 md:px-8"
              aria-label={review.title}
            >
              <Title review={review} writing={mode === 'write'} />
              {shownSections(state, sections).map((section) => (
                <Section
                  key={section.id}
                  {...{ section, namings, verdicts, judged, change }}
                  writing={mode === 'write'}
                  claims={state.claims.get(section.id) ?? []}
                  onClaims={(found) => tell({ did: 'found claims', section: section.id, claims: found })}
                  onFocus={setEditor}
                  onEditor={(e) => editors.current.set(section.id, e)}
                >
                  <ClaimsOfSection {...weighing} claims={claims.filter((c) => c.section === section.id)} />
                </Section>
              ))}
            </article>
          </div>
          <div className="grid gap-3 lg:max-xl:col-start-2 xl:sticky xl:top-16 xl:max-h-[calc(100dvh-4.5rem)] xl:overflow-y-auto">
            <div className="max-xl:hidden">
              <ClaimsPanel {...weighing} claims={claims} />
            </div>
            <Card className="p-4" label="Hand it out">
              <HandOut
                {...{ file, sources, article }}
                onRead={() => {
                  tell({ did: 'chose mode', mode: 'read' })
                  return drawn()
                }}
              />
            </Card>
          </div>
        </div>
      </Writing>
    </SourcesProvider>
  )
}

/** The title of a review, as it is written or read. */
function Title({ review, writing }: { review: ReviewFile['review']; writing: boolean }) {
  if (!writing) return <h1 className="mb-4 text-[1.9rem] leading-[2.3rem]">{review.title}</h1>
  return (
    <>
      <h1 className="sr-only">{review.title}</h1>
      <input
        aria-label="Title of the review"
        className="mb-4 w-full bg-transparent text-[1.9rem] leading-[2.3rem] font-bold"
        defaultValue={review.title}
        maxLength={120}
        onBlur={(e) => {
          const title = e.target.value.trim()
          if (title !== '' && title !== review.title) void outbox.put('reviews', { ...review, title })
        }}
      />
    </>
  )
}

interface SectionProps {
  readonly section: ReviewSection
  readonly writing: boolean
  readonly namings: Namings
  /** By claim: what the throws make of it, in a word and in full. */
  readonly verdicts: ReadonlyMap<string, Verdict>
  readonly judged: ReadonlyMap<string, Judged>
  readonly claims: readonly MarkedClaim[]
  readonly change: ReturnType<typeof useChanges<'review-sections'>>
  readonly onClaims: (found: readonly MarkedClaim[]) => void
  readonly onFocus: (editor: Editor) => void
  readonly onEditor: (editor: Editor) => void
  /** What its claims come to, under it while it is written. */
  readonly children: ReactNode
}

/** One section, as it is written or read. */
function Section(props: SectionProps) {
  const { section: s, writing, namings, verdicts, judged, claims, change } = props
  const said = s.verdicts ? verdictWords(s.verdicts) : []
  return (
    <section id={`section-${s.id}`} className={clsx('group mb-6 scroll-mt-32', s.hidden && 'opacity-50')}>
      {writing ? <Heading section={s} change={change} /> : <h2 className="text-title">{s.title}</h2>}
      {s.verdicts && writing && (
        <VerdictForm
          verdicts={s.verdicts}
          onVerdicts={(now) => change({ ...s, verdicts: now }, ['verdicts'])}
        />
      )}
      {!writing && said.length > 0 && <p className="my-2 font-semibold">{said.join(' ')}</p>}
      <SectionEditor
        label={s.title}
        body={s.body}
        version={s.version}
        editable={writing}
        namings={namings}
        verdicts={verdicts}
        onBody={(body, version) => change({ ...s, body, version }, ['body', 'version'])}
        onClaims={props.onClaims}
        onFocus={props.onFocus}
        onEditor={props.onEditor}
      />
      {writing && props.children}
      {!writing && s.kind === 'disclosure' && <NotDisclosed body={s.body} />}
      {!writing && <EvidencePanel claims={claims} judged={judged} />}
    </section>
  )
}

/** The heading of a section that is written, and a way to take it out; what is disclosed stays. */
function Heading({ section: s, change }: Pick<SectionProps, 'section' | 'change'>) {
  const takeOut = () => {
    change({ ...s, removedAt: new Date().toISOString() }, ['removedAt'])
    say(`“${s.title}” was taken out.`, {
      label: 'Restore',
      run: () => change({ ...s, removedAt: null }, ['removedAt']),
    })
  }
  return (
    <div className="flex items-center gap-2">
      <input
        aria-label={`Heading of ${s.title}`}
        className="min-w-0 flex-1 bg-transparent text-title font-bold"
        defaultValue={s.title}
        maxLength={120}
        onBlur={(e) => {
          const title = e.target.value.trim()
          if (title !== '' && title !== s.title) change({ ...s, title }, ['title'])
        }}
      />
      {s.kind !== 'disclosure' && (
        <button
          type="button"
          className="min-h-9 text-note text-quiet underline underline-offset-4"
          aria-label={`Take out ${s.title}`}
          onClick={takeOut}
        >
          take out
        </button>
      )}
    </div>
  )
}

/** How discs are spoken of, trial by trial; the same until a trial is read anew. */
function useNamings(sources: Sources): Namings {
  return useMemo(
    () =>
      [...sources].flatMap(([trial, source]) =>
        source
          ? [
              {
                trial,
                naming: source.view.discs.map((d) => ({
                  disc: d.disc.code,
                  names: [
                    source.name(d.disc.code),
                    d.disc.code,
                    `${d.mold.name} ${d.plastic.name}`,
                    d.mold.name,
                    d.plastic.name,
                  ],
                })),
              },
            ]
          : [],
      ),
    [sources],
  )
}

const NONE: ReadonlyMap<string, Judged> = new Map()
/** What the throws make of each claim, by {@link claimKey}; what is judged already stays while more are. */
function useJudged(claims: readonly PlacedClaim[], sources: Sources): ReadonlyMap<string, Judged> {
  const byKey = new Map(claims.map((c) => [claimKey(c), c]))
  const readings = [...sources].map(([id, s]) => `${id} ${s?.reading.serial}`)
  const asked = useAsked(
    byKey.size === 0 ? null : JSON.stringify([readings, [...byKey.keys()].sort()]),
    async () => {
      const judged = new Map<string, Judged>()
      for (const [trial, source] of sources) {
        const own = [...byKey].filter(([, c]) => c.trial === trial)
        if (!source || own.length === 0) continue
        const asides = source.view.trial.controlDiscId
        const discs = source.view.discs.filter((d) => d.disc.id !== asides).map((d) => d.disc.code)
        const said = await askRating((w) =>
          w.judgeSaid(
            source.ratingKey,
            own.map(([, c]) => c.claim),
            discs,
            source.short,
          ),
        )
        own.forEach(([key], i) => judged.set(key, said[i]!))
      }
      return judged
    },
  )
  return asked.value ?? NONE
}
