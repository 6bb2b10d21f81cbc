import { DISC_CLASS_WORDS, SOURCE_WORDS } from '../../../core/shelf/kinds.ts'
import { SEEN_NUMBERS } from '../../../core/flight/disc.ts'
import { capital } from '../../../contract/words.ts'
import clsx from 'clsx'
import { ArrowLeft, FlaskConical, Pencil, Scale } from 'lucide-react'
import { format } from 'date-fns'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { hedgedStability, stabilityWord } from '../../../core/judge/words.ts'
import { labelStatement } from '../../../core/judge/statements.ts'
import { LEVELS } from '../../../core/shelf/numbersInForce.ts'
import { sideOfRating, stabilityOf } from '../../../contract/shelfPage.ts'
import type { DiscRecord, InspectedDisc } from '../../../contract/shelfPage.ts'
import { shelved } from '../../../contract/sheet.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { ClaimEvidence } from '../../charts/ClaimEvidence.tsx'
import { useShelf } from '../../data/hooks.ts'
import { LEVEL_WORDS } from '../../../contract/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { changeDiscs, useDiscRecord, useInspections } from '../../data/shelfPage.ts'
import type { KnownDisc } from '../../data/shelfPage.ts'
import { figure, numbersLine, percent, wordingOf } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { Claims } from '../../parts/Claims.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { hueOf, lookOf } from '../../strip/hues.ts'
import { DiscForm } from './DiscForm.tsx'
import { HandSaid } from './HandSaid.tsx'
import { InspectForm } from './InspectForm.tsx'
import { JobsCard } from './JobsCard.tsx'
import { LikeCard } from './LikeCard.tsx'
import { Photo } from './Photo.tsx'
import { RimCard } from './RimCard.tsx'
import { ScaleDialog } from './ScaleDialog.tsx'
import { Tests } from './Tests.tsx'
import { WearLog } from './WearLog.tsx'
import { Offered } from '../../parts/Offered.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { useUnits } from '../../data/preferences.tsx'

/** Inspected discs by how near of kin they are to this one. */
const byKin = (d: ShelvedDisc, list: readonly InspectedDisc[]) => {
  const far = ({ row }: InspectedDisc) =>
    (row.mold.id === d.mold.id ? 0 : 4) +
    (row.mold.discClass === d.mold.discClass ? 0 : 2) +
    (row.plastic.name === d.plastic.name ? 0 : 1)
  return list.filter((o) => o.row.disc.id !== d.disc.id).sort((a, b) => far(a) - far(b))
}

/** Everything known of one disc. */
export default function DiscPage({ discId }: { discId: string }) {
  const { record, error } = useDiscRecord(discId)
  if (error && !record) return <TroubleNote error={error} />
  if (!record) return <WaitingNote what="the disc" />
  return <Page record={record} />
}

function Page({ record }: { record: KnownDisc }) {
  const { row } = record
  const disc = useMemo(() => shelved(row), [row])
  const { view } = useShelf()
  const inspected = useInspections()
  const [params, setParams] = useSearchParams()
  const [open, setOpen] = useState<Opened>()
  const others = useMemo(() => byKin(disc, inspected), [disc, inspected])
  const asked = params.get('over')
  // its nearest kin until somebody chooses
  const over =
    asked === null ? others.slice(0, 1).map((o) => o.row.disc.id) : asked.split(',').filter(Boolean)
  const own = inspected.find((i) => i.row.disc.id === disc.disc.id)
  const beside = others.find((o) => o.row.disc.id === over[0])
  const ratings = useMemo(
    () => new Map(inspected.flatMap((i) => (i.row.rating ? [[i.row.disc.id, i.row.rating] as const] : []))),
    [inspected],
  )
  const claim = disc.inForce.numbers.turn + disc.inForce.numbers.fade

  return (
    <div className="grid gap-3 p-3 md:p-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="grid min-w-0 content-start gap-3">
        <Head disc={disc} onOpen={setOpen} />
        <RimCard
          disc={disc}
          inspection={record.inspections[0]}
          others={others}
          over={over}
          onOver={(ids) => setParams({ over: ids.join(',') }, { replace: true })}
          onInspect={() => setOpen('inspect')}
        />
        <Offered kind="inspections" ids={record.inspections.map((i) => i.id)} className="p-4" />
        {own && beside && <HandSaid disc={own} beside={beside} all={inspected} />}
        {record.partly ? (
          <Card className="p-4" label="Tests">
            <h2 className="text-lead">Tests and wear</h2>
            <p className="text-quiet">
              Its tests, likeness and wear are on the server, which does not answer now. What you change here
              is kept and sent.
            </p>
          </Card>
        ) : (
          <Tests code={disc.disc.code} record={record} published={claim} />
        )}
        <WearLog record={record} />
      </div>

      <div className="grid min-w-0 content-start gap-3">
        <Evidence record={record} disc={disc} />
        <JobsCard discId={disc.disc.id} />
        <NumbersCard disc={disc} disagreements={record.disagreements} />
        {!record.partly && (
          <LikeCard
            likeness={record.likeness}
            weighing={record.weighing}
            discs={view?.discs ?? []}
            ratings={ratings}
          />
        )}
        <Whence record={record} disc={disc} />
      </div>
      {open === 'edit' && view && (
        <DiscForm shelf={view.shelf} disc={disc} onClose={() => setOpen(undefined)} />
      )}
      {open === 'inspect' && (
        <InspectForm disc={disc.disc} last={record.inspections[0]} onClose={() => setOpen(undefined)} />
      )}
      {open === 'scale' && <ScaleDialog disc={disc.disc} onClose={() => setOpen(undefined)} />}
    </div>
  )
}

type Opened = 'edit' | 'inspect' | 'scale'

/** What disc it is, and what is done with it from here. */
function Head({ disc, onOpen }: { readonly disc: ShelvedDisc; readonly onOpen: (what: Opened) => void }) {
  const { code, markedG, weighedG, removedAt } = disc.disc
  return (
    <header className="flex items-center gap-3 px-1 max-md:flex-wrap">
      <StationLink
        at="shelf"
        aria-label="Back to the shelf"
        className="hit grid size-10 place-items-center rounded-lg hover:bg-tint"
      >
        <ArrowLeft size={20} aria-hidden />
      </StationLink>
      <DiscDot look={lookOf(code)} size={56} code={code} />
      <div className="min-w-0 flex-1 max-md:basis-52">
        <h1 className="text-title">
          {disc.mold.name}, {disc.plastic.name}
        </h1>
        <p className="text-quiet">
          <span className="figure mr-1">{code}</span>
          {[
            disc.maker.name,
            DISC_CLASS_WORDS[disc.mold.discClass],
            disc.run?.name,
            markedG !== null && `marked ${markedG} g`,
            weighedG !== null &&
              `weighs ${weighedG} g${markedG === null ? '' : ` (${weighedG > markedG ? '+' : ''}${figure(weighedG - markedG, 1)})`}`,
            disc.disc.wear,
          ]
            .filter(Boolean)
            .map((x) => ` · ${x}`)
            .join('')}
          {removedAt !== null && ' · taken off the shelf'}
        </p>
      </div>
      <Button onClick={() => onOpen('scale')}>
        <Scale size={16} aria-hidden /> Weigh
      </Button>
      <Button onClick={() => onOpen('edit')} aria-label={`Edit ${code}`}>
        <Pencil size={16} aria-hidden /> Edit
      </Button>
      {removedAt === null && (
        <StationLink at="bench" search={`?start=${disc.disc.id}`} className={buttonLook('primary')}>
          <FlaskConical size={16} aria-hidden /> Start a trial
        </StationLink>
      )}
    </header>
  )
}

/** Where it came from, what its maker says of it, its photograph; takes it off the shelf. */
function Whence({ record, disc }: { readonly record: KnownDisc; readonly disc: ShelvedDisc }) {
  const { code, removedAt } = disc.disc
  return (
    <Card className="space-y-3 p-4" label="Where it came from">
      <div>
        <h2 className="text-lead">Where it came from</h2>
        <p>
          {SOURCE_WORDS[disc.disc.source]}
          {disc.disc.provenance && `, ${disc.disc.provenance}`}
          {disc.disc.acquiredOn && `, since ${format(disc.disc.acquiredOn, 'd MMM yyyy')}`}
        </p>
        {disc.disc.note && <p className="text-quiet">{disc.disc.note}</p>}
      </div>
      <Claims
        title={`What the maker says of ${disc.mold.name} in ${disc.plastic.name}`}
        claims={disc.plastic.claims}
        locked={false}
        onClaims={(claims) => void outbox.put('plastics', { ...disc.plastic, claims })}
      />
      <Photo disc={disc.disc} has={record.photo} waiting={record.photoWaiting} />
      <Button
        kind="quiet"
        onClick={() =>
          void changeDiscs(
            [disc.disc],
            { removedAt: removedAt === null ? new Date().toISOString() : null },
            removedAt === null ? `${code} was taken off the shelf.` : `${code} is back on the shelf.`,
          )
        }
      >
        {removedAt === null ? 'Take off the shelf' : 'Restore to the shelf'}
      </Button>
    </Card>
  )
}

/** What is printed beside what the throws say, and one sentence. */
function Evidence({ record, disc }: { record: KnownDisc; disc: ShelvedDisc }) {
  const units = useUnits()
  const { rating, throws } = record.row
  const { numbers, level } = disc.inForce
  if (!rating || throws === 0)
    return (
      <Card className="p-4" label="Claim and evidence">
        <h2 className="text-lead">Claim and evidence</h2>
        <p>
          {numbersLine(numbers)}, {LEVEL_WORDS[level]}: {stabilityWord(numbers.turn + numbers.fade)}.
        </p>
        <p className="text-quiet">Not thrown in a trial yet, so this is only what is printed.</p>
      </Card>
    )
  const s = stabilityOf(rating)
  const sd = [0, 4, 8].map((i) => Math.sqrt(rating.covariance[i]!))
  const said = labelStatement(
    {
      disc: disc.disc.code,
      published: numbers,
      ...sideOfRating(rating),
      stability: s,
      throws,
    },
    undefined,
    wordingOf(units, () => 'this disc'),
  )
  return (
    <Card className="p-4" label="Claim and evidence">
      <h2 className="text-lead">Claim and evidence</h2>
      <p className="mb-1 text-note text-quiet">
        {LEVEL_WORDS[level]} · {throws} throws
        {!record.weighing && ` on ${record.tests.length} ${record.tests.length === 1 ? 'day' : 'days'}`}
        {record.behind && ' · weighing new throws …'}
      </p>
      {SEEN_NUMBERS.map((key, i) => (
        <div key={key} className="flex items-center gap-3">
          <span className="w-12 capitalize">{key}</span>
          <ClaimEvidence
            what={key}
            published={numbers[key]}
            observed={rating[key]}
            sd={sd[i]!}
            hue={hueOf(lookOf(disc.disc.code))}
            width={210}
          />
          <span className="figure ml-auto">{figure(rating[key], 1)}</span>
        </div>
      ))}
      <p className="mt-2 border-t border-rule pt-2">
        <strong>{capital(hedgedStability(s.value, s.sd))}</strong>. {capital(said.text)}
        {said.probability !== undefined && `, ${percent(said.probability)}`}.
      </p>
    </Card>
  )
}

/** Every level at which numbers are published, and which is in force. */
function NumbersCard({
  disc,
  disagreements,
}: {
  disc: ShelvedDisc
  disagreements: DiscRecord['disagreements']
}) {
  const names = {
    stamped: 'stamped on it',
    run: disc.run?.name ?? 'no run noted',
    plastic: disc.plastic.name,
    mold: disc.mold.name,
  }
  return (
    <Card className="p-4" label="Numbers in force">
      <h2 className="text-lead">Numbers in force</h2>
      <table className="w-full">
        <tbody>
          {LEVELS.map((level) => {
            const inForce = level === disc.inForce.level
            const given = disc.levels[level]
            return (
              <tr
                key={level}
                className={clsx(
                  'border-b border-rule last:border-0',
                  inForce ? 'font-semibold' : 'text-quiet',
                )}
              >
                <th scope="row" className={clsx('py-1.5 text-left', !inForce && 'font-normal')}>
                  {inForce && <span aria-hidden>▸ </span>}
                  {names[level]}
                  {inForce && <span className="sr-only"> (in force)</span>}
                </th>
                <td className="figure text-right">{given ? numbersLine(given) : 'none'}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {disagreements.map((g) => (
        <p key={g.number} className="mt-2 rounded-lg bg-tint p-2.5">
          <strong className="text-accent">
            The throws disagree with the {g.number} of {disc.plastic.name}:
          </strong>{' '}
          printed {figure(g.published, 1)}, seen {figure(g.seen, 1)}, {percent(g.probability)} ({g.throws}{' '}
          throws of {g.discs} discs, wear allowed for).
        </p>
      ))}
    </Card>
  )
}
