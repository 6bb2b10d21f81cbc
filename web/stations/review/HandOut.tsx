import { format } from 'date-fns'
import { useRef, useState } from 'react'
import type { RefObject } from 'react'
import { v7 as newId } from 'uuid'
import type { ReviewFile, Revision } from '../../../contract/reviews.ts'
import { METHOD } from '../../../core/review/method.ts'
import { send } from '../../data/api.ts'
import { at } from '../../../contract/api.ts'
import { outbox, reviewChanged } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { FlightsStrip } from './blocks/FlightsBlock.tsx'
import { bundleOf } from './page/bundle.ts'
import { drawingsIn } from '../../data/drawings.ts'
import { handDown } from './page/handDown.ts'
import { pageOf, Stopped } from './page/page.ts'
import { pictureOf } from './page/picture.ts'
import { readerDataOf } from './page/readerData.ts'
import type { Source, Sources } from './sources.tsx'

interface HandOutProps {
  readonly file: ReviewFile
  readonly sources: Sources
  readonly article: RefObject<HTMLElement | null>
  /** Shows the review as it is read, and answers once it is: what is handed out is what is read. */
  readonly onRead: () => Promise<void>
}

/** What a file of a review is called, without its ending. */
const fileName = (title: string) =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'review'

type Making = Parameters<typeof pageOf>[1]

/** Work that takes a while, one piece at a time: how far it is, how it is begun and stopped. */
function useMaking(onRead: HandOutProps['onRead']) {
  const [share, setShare] = useState<number>()
  const stopping = useRef<AbortController>(undefined)
  /** Runs a piece of work that can be stopped, and says how it ended. */
  const making = async (work: (making: Making) => Promise<void>): Promise<boolean> => {
    stopping.current = new AbortController()
    setShare(0)
    try {
      await onRead()
      await work({ signal: stopping.current.signal, onShare: setShare })
      return true
    } catch (e) {
      if (e instanceof Stopped) say('It was stopped; nothing was made.')
      else sayWrong(e instanceof Error ? e.message : String(e))
      return false
    } finally {
      setShare(undefined)
    }
  }
  return { share, making, stop: () => stopping.current?.abort() }
}

/** Hands the review out: as one page, with everything beside it, as a picture; freezes it, and publishes what is frozen. */
export function HandOut({ file, sources, article, onRead }: HandOutProps) {
  const { review } = file
  const { kind: units } = useUnits()
  const { share, making, stop } = useMaking(onRead)
  const strips = useRef<HTMLDivElement>(null)
  const ready = review.trialIds.every((id) => sources.has(id))
  const known = [...sources.values()].filter((s): s is Source => s !== null)
  const name = fileName(review.title)

  const page = (m: Making) =>
    pageOf(
      {
        title: review.title,
        about: [
          ...known.map((s) => `${s.view.trial.name}, ${s.facts.counted} throws counted`),
          `written ${format(new Date(), 'd MMM yyyy')}`,
          METHOD,
        ].join(' · '),
        article: article.current!,
        data: readerDataOf(known, units),
      },
      m,
    )
  const asPage = () =>
    making(async (m) => handDown(new Blob([await page(m)], { type: 'text/html' }), `${name}.html`))
  const asBundle = () =>
    making(async (m) =>
      handDown(
        await bundleOf({ name, review, html: await page(m), article: article.current!, sources: known }),
        `${name}.zip`,
      ),
    )
  const asPicture = (kind: 'square' | 'wide') =>
    making(async () =>
      handDown(
        await pictureOf(kind, review.title, known[0], drawingsIn(strips.current!)),
        `${name}-${kind}.png`,
      ),
    )
  const freeze = (note: string) =>
    making(async (m) => {
      await send(
        // the same id again is the same revision
        at('PUT /api/revisions/:id', { id: newId() }, { reviewId: review.id, note, method: METHOD }),
        await page(m),
      )
      reviewChanged(review.id)
      say('The review is frozen: this revision stays as it is.')
    })
  const busy = share !== undefined || !ready
  return (
    <>
      <h2 className="text-lead">Hand it out</h2>
      {/* what pictures are drawn from: flights as wide as they are shown there */}
      <div ref={strips} aria-hidden inert className="pointer-events-none fixed top-0 -left-[3000px]">
        {known[0] && (
          <>
            <div className="w-[29rem]">
              <FlightsStrip source={known[0]} />
            </div>
            <div className="w-[52rem]">
              <FlightsStrip source={known[0]} />
            </div>
          </>
        )}
      </div>
      {share === undefined ? (
        <p className="text-note text-quiet">
          {ready
            ? 'One file a reader can open anywhere, with a panel for their own arm.'
            : 'Weighing the throws …'}
        </p>
      ) : (
        <p role="status" className="flex items-center gap-3 text-note">
          Making it, {Math.round(100 * share)} %
          <Button kind="quiet" onClick={stop}>
            Stop
          </Button>
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button kind="primary" disabled={busy} onClick={() => void asPage()}>
          One page (HTML)
        </Button>
        <Button disabled={busy} onClick={() => void asBundle()}>
          Everything (ZIP)
        </Button>
        <Button disabled={busy} onClick={() => void asPicture('square')}>
          Square picture
        </Button>
        <Button disabled={busy} onClick={() => void asPicture('wide')}>
          Wide picture
        </Button>
      </div>
      <Freezing {...{ file, name, busy }} onFreeze={freeze} />
    </>
  )
}

interface FreezingProps {
  readonly file: ReviewFile
  readonly name: string
  readonly busy: boolean
  /** Answers whether it was frozen. */
  readonly onFreeze: (note: string) => Promise<boolean>
}

/** Freezes the review as it is read now, and lists what was frozen. */
function Freezing({ file: { review, revisions }, name, busy, onFreeze }: FreezingProps) {
  const [note, setNote] = useState('')
  const freeze = async () => {
    if (await onFreeze(note)) setNote('')
  }
  return (
    <>
      <h3 className="mt-4 font-semibold">Freeze</h3>
      <p className="text-note text-quiet">
        A numbered revision: text, numbers and pictures stay as they are, whatever is thrown later.
      </p>
      {revisions.length > 0 && (
        <TextInput
          className="mt-1"
          label="What changed, and why"
          value={note}
          maxLength={1000}
          onChange={(e) => setNote(e.target.value)}
        />
      )}
      <Button
        className="mt-2"
        disabled={busy || (revisions.length > 0 && note.trim() === '')}
        onClick={() => void freeze()}
      >
        Freeze revision {(revisions[0]?.number ?? 0) + 1}
      </Button>
      {revisions.length > 0 && (
        <>
          <ul className="mt-2">
            {revisions.map((r) => (
              <Frozen key={r.id} revision={r} name={name} />
            ))}
          </ul>
          <label className="mt-2 flex min-h-9 items-center gap-2 text-note">
            <input
              type="checkbox"
              className="size-4 accent-[var(--water)]"
              checked={review.listed}
              onChange={(e) => void outbox.put('reviews', { ...review, listed: e.target.checked })}
            />
            List it among the published, for search engines too
          </label>
          <a className="text-note underline underline-offset-4" href="/published">
            What is published and listed
          </a>
        </>
      )}
    </>
  )
}

function Frozen({ revision, name }: { revision: Revision; name: string }) {
  const { number, frozenAt, note, token } = revision
  const [working, setWorking] = useState(false)
  const address = token === null ? undefined : `${location.origin}/published/${token}`
  const change = async (published: boolean) => {
    setWorking(true)
    try {
      await send(at('PUT /api/revisions/:id/publication', { id: revision.id }), { published })
      reviewChanged(revision.reviewId)
    } catch (e) {
      sayWrong(e instanceof Error ? e.message : String(e))
    } finally {
      setWorking(false)
    }
  }
  return (
    <li className="border-t border-rule py-2">
      <span className="font-semibold">Revision {number}</span>{' '}
      <span className="text-note text-quiet">
        {format(new Date(frozenAt), 'd MMM yyyy, H:mm')}
        {note && ` · ${note}`}
      </span>
      <span className="flex flex-wrap items-center gap-x-3">
        <a
          className="inline-flex min-h-9 items-center text-note underline underline-offset-4"
          href={`/api/revisions/${revision.id}/page`}
          download={`${name}-${number}.html`}
        >
          Download
        </a>
        <Button
          kind="quiet"
          className="text-note"
          disabled={working}
          onClick={() => void change(token === null)}
        >
          {token === null ? 'Publish' : 'Unpublish'}
        </Button>
      </span>
      {address && (
        <a className="block text-note break-all underline underline-offset-4" href={address}>
          {address}
        </a>
      )}
    </li>
  )
}
