import type { Editor } from '@tiptap/react'
import clsx from 'clsx'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { v7 as newId } from 'uuid'
import { FROM_ANOTHER_DEVICE } from '../../../contract/reviews.ts'
import type { ReviewFile, ReviewSection } from '../../../contract/reviews.ts'
import { doc, nodesOf, paragraph } from '../../../core/review/document.ts'
import type { Judged } from '../../../core/review/judged.ts'
import { SECTION_TITLES } from '../../../core/review/sections.ts'
import { outbox } from '../../data/outbox.ts'
import { NoPicture, photoOf } from '../../data/pictures.ts'
import { useReview } from '../../data/reviews.ts'
import { useChanges } from '../../data/useChanges.ts'
import { useAsked } from '../../data/useAsked.ts'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { askRating } from '../../workers/rating.ts'
import { ClaimsPanel } from './ClaimsPanel.tsx'
import type { PlacedClaim } from './ClaimsPanel.tsx'
import { claimKey } from './editor/claimMarks.ts'
import type { MarkedClaim, Namings } from './editor/claimMarks.ts'
import { Writing } from './editor/liveNodes.tsx'
import { SectionEditor } from './editor/SectionEditor.tsx'
import { Evidence } from './Evidence.tsx'
import { NotDisclosed } from './NotDisclosed.tsx'
import { HandOut } from './HandOut.tsx'
import { Outline } from './Outline.tsx'
import { ReadSource, SourcesProvider } from './sources.tsx'
import type { Source, Sources } from './sources.tsx'
import { Toolbar } from './Toolbar.tsx'
import { VerdictForm, verdictWords } from './VerdictForm.tsx'

/** A review that is written: sections, claims held against the throws, and what is handed out. */
export default function Compose({ reviewId }: { trialId: string; reviewId: string }) {
  const { file, error } = useReview(reviewId)
  if (error && !file) return <Trouble error={error} />
  if (!file) return <Waiting what="the review" />
  if (file.review.removedAt !== null)
    return <Empty title="This review was taken away">It can be brought back from the list.</Empty>
  return <Composer file={file} />
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

function Composer({ file }: { file: ReviewFile }) {
  const { review, sections } = file
  const [sources, setSources] = useState<Sources>(new Map())
  const onSource = useCallback(
    (id: string, source: Source | null) => setSources((now) => new Map(now).set(id, source)),
    [],
  )
  const [mode, setMode] = useState<'write' | 'read'>('write')
  const [editor, setEditor] = useState<Editor>()
  const editors = useRef(new Map<string, Editor>())
  const [claimsBy, setClaimsBy] = useState<ReadonlyMap<string, readonly MarkedClaim[]>>(new Map())
  const article = useRef<HTMLElement>(null)
  useWrittenTwice(sections)
  const namings = useNamings(sources)
  const claims = sections
    .filter((s) => !s.hidden)
    .flatMap((s) => (claimsBy.get(s.id) ?? []).map((c): PlacedClaim => ({ ...c, section: s.id })))
  const judged = useJudged(claims, sources)
  const verdicts = useMemo(() => new Map([...judged].map(([key, j]) => [key, j.verdict])), [judged])
  /** What is read is there once it is drawn. */
  const toRead = async () => {
    setMode('read')
    await document.fonts.ready
    for (let frames = 0; frames < 3; frames++) await new Promise((next) => requestAnimationFrame(next))
    await new Promise((next) => setTimeout(next, 150))
  }
  const change = useChanges('review-sections', sections)

  const add = () =>
    change({
      id: newId(),
      reviewId: review.id,
      kind: 'own',
      place: (sections.at(-1)?.place ?? 0) + 1,
      title: SECTION_TITLES.own,
      body: doc(paragraph()),
      verdicts: null,
      hidden: false,
      removedAt: null,
      version: 0,
    })
  const takeOut = (section: ReviewSection) => {
    const removedAt = new Date().toISOString()
    change({ ...section, removedAt }, ['removedAt'])
    say(`“${section.title}” was taken out.`, {
      label: 'Restore',
      run: () => change({ ...section, removedAt: null }, ['removedAt']),
    })
  }
  const onPhoto = async (chosen: File): Promise<string | undefined> => {
    try {
      const id = newId()
      await outbox.put('review-photos', { id, reviewId: review.id, photo: await photoOf(chosen) })
      return `/api/review-photos/${id}`
    } catch (e) {
      if (!(e instanceof NoPicture)) throw e
      sayWrong(e.message)
      return undefined
    }
  }
  const outline = (
    <Outline
      sections={sections}
      onPlace={(s, place) => change({ ...s, place }, ['place'])}
      onHidden={(s) => change({ ...s, hidden: !s.hidden }, ['hidden'])}
      onAdd={add}
    />
  )
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
                onChange={setMode}
                options={[
                  { value: 'write', label: 'Write' },
                  { value: 'read', label: 'Read' },
                ]}
              />
              <p className="text-note text-quiet" role="status">
                {sources.size < review.trialIds.length
                  ? 'Weighing the throws …'
                  : 'What you type is kept as you type.'}
              </p>
            </div>
            {mode === 'write' && <Toolbar {...{ editor, sources, onPhoto }} />}
            <article
              ref={article}
              className="min-w-0 rounded-xl border border-rule bg-card px-4 py-6 md:px-8"
              aria-label={review.title}
            >
              {mode === 'write' && <h1 className="sr-only">{review.title}</h1>}
              {mode === 'write' ? (
                <input
                  aria-label="Title of the review"
                  className="mb-4 w-full bg-transparent text-[1.9rem] leading-[2.3rem] font-bold"
                  defaultValue={review.title}
                  maxLength={120}
                  onBlur={(e) => {
                    const title = e.target.value.trim()
                    if (title !== '' && title !== review.title)
                      void outbox.put('reviews', { ...review, title })
                  }}
                />
              ) : (
                <h1 className="mb-4 text-[1.9rem] leading-[2.3rem]">{review.title}</h1>
              )}
              {sections
                .filter((s) => mode === 'write' || s.kind === 'disclosure' || (!s.hidden && saysSomething(s)))
                .map((s) => (
                  <section
                    key={s.id}
                    id={`section-${s.id}`}
                    className={clsx('group mb-6 scroll-mt-32', s.hidden && 'opacity-50')}
                  >
                    {mode === 'write' ? (
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
                            onClick={() => takeOut(s)}
                          >
                            take out
                          </button>
                        )}
                      </div>
                    ) : (
                      <h2 className="text-title">{s.title}</h2>
                    )}
                    {s.verdicts &&
                      (mode === 'write' ? (
                        <VerdictForm
                          verdicts={s.verdicts}
                          onVerdicts={(now) => change({ ...s, verdicts: now }, ['verdicts'])}
                        />
                      ) : (
                        verdictWords(s.verdicts).length > 0 && (
                          <p className="my-2 font-semibold">{verdictWords(s.verdicts).join(' ')}</p>
                        )
                      ))}
                    <SectionEditor
                      label={s.title}
                      body={s.body}
                      version={s.version}
                      editable={mode === 'write'}
                      namings={namings}
                      verdicts={verdicts}
                      onBody={(body, version) => change({ ...s, body, version }, ['body', 'version'])}
                      onClaims={(found) => setClaimsBy((now) => new Map(now).set(s.id, found))}
                      onFocus={setEditor}
                      onEditor={(e) => editors.current.set(s.id, e)}
                    />
                    {mode === 'read' && s.kind === 'disclosure' && <NotDisclosed body={s.body} />}
                    {mode === 'read' && <Evidence claims={claimsBy.get(s.id) ?? []} judged={judged} />}
                  </section>
                ))}
            </article>
          </div>
          <div className="grid gap-3 lg:max-xl:col-start-2 xl:sticky xl:top-16 xl:max-h-[calc(100dvh-4.5rem)] xl:overflow-y-auto">
            <ClaimsPanel
              claims={claims}
              judged={judged}
              sources={sources}
              onShow={(c) =>
                editors.current.get(c.section)?.chain().focus().setTextSelection(c).scrollIntoView().run()
              }
              onWord={(c, words) =>
                editors.current
                  .get(c.section)
                  ?.chain()
                  .focus()
                  .insertContentAt({ from: c.from, to: c.to }, words)
                  .run()
              }
            />
            <Card className="p-4" label="Hand it out">
              <HandOut {...{ file, sources, article }} onRead={toRead} />
            </Card>
          </div>
        </div>
      </Writing>
    </SourcesProvider>
  )
}

/** A section with nothing in it is not read. */
const saysSomething = ({ body, verdicts }: ReviewSection): boolean =>
  (verdicts !== null && verdictWords(verdicts).length > 0) ||
  [...nodesOf(body)].some(
    (n) => n.text !== undefined || ['live', 'flown', 'image', 'figure'].includes(n.type),
  )

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
