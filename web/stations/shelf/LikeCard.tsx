import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { pathFeatures, pathPoints, tracePath } from '../../../core/flight/path.ts'
import { referenceRelease } from '../../../core/flight/release.ts'
import type { DiscRecord } from '../../../contract/shelfPage.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Card } from '../../parts/Card.tsx'
import { hueOf, lookOf } from '../../strip/hues.ts'
import { StationLink } from '../../parts/StationLink.tsx'

const [WIDTH, HEIGHT] = [150, 44]

type LikeDisc = NonNullable<DiscRecord['likeness']>['most'][number]

interface LikeCardProps {
  readonly likeness: DiscRecord['likeness']
  /** It is still being worked out. */
  readonly weighing: boolean
  readonly discs: readonly ShelvedDisc[]
  readonly ratings: ReadonlyMap<string, { glide: number; turn: number; fade: number }>
}

/** The discs most and least like this one, by how far apart their flights lie. */
export function LikeCard({ likeness, weighing, discs, ratings }: LikeCardProps) {
  const units = useUnits()
  if (!likeness)
    return (
      <Card className="p-4" label="Flies most like">
        <h2 className="text-lead">Flies most like</h2>
        <p className="text-quiet">
          {weighing ? 'Flying the others beside it …' : 'Known once other discs of the shelf are thrown.'}
        </p>
      </Card>
    )
  const entry = (of: LikeDisc) => {
    const d = discs.find((x) => x.disc.id === of.discId)
    if (!d) return null
    return (
      <li key={of.discId} className="flex items-center gap-3">
        <MiniFlight disc={d} rating={ratings.get(of.discId)} />
        <div className="min-w-0">
          <StationLink
            at="shelf/disc"
            params={{ discId: of.discId }}
            className="tap block truncate font-semibold underline-offset-4 hover:underline"
          >
            {d.mold.name}, {d.plastic.name}
          </StationLink>
          <span className="text-note">
            <span className="figure">{units.length.show(of.distanceM)}</span>{' '}
            <span className="text-quiet">{d.disc.code}</span> <Senses like={of} />
          </span>
        </div>
      </li>
    )
  }
  return (
    <Card className="p-4" label="Flies most like">
      <h2 className="mb-2 text-lead">Flies most like</h2>
      <ul className="space-y-2">{likeness.most.map(entry)}</ul>
      {likeness.least.length > 0 && (
        <>
          <h3 className="mt-3 mb-1 text-note text-quiet">and least like</h3>
          <ul>{likeness.least.map(entry)}</ul>
        </>
      )}
      <p className="mt-2 text-note text-quiet">
        Between flights of an arm of {units.speed.show(likeness.armMps)} with a disc of speed 9, over angles
        and winds. Two throws of one disc lie {units.length.show(likeness.spread.pathM)} apart, their carries{' '}
        {units.length.show(likeness.spread.carryM)}.
      </p>
    </Card>
  )
}

/** In which sense two discs fly alike, if in any. */
function Senses({ like: { overlaps, sameShape, sameDistance, fartherM } }: { like: LikeDisc }) {
  const { length } = useUnits()
  if (overlaps) return <strong className="text-accent">overlaps</strong>
  if (sameShape)
    return (
      <span>
        same shape, {length.show(Math.abs(fartherM), 0)} {fartherM > 0 ? 'farther' : 'shorter'}
      </span>
    )
  return sameDistance ? <span>as far, another shape</span> : null
}

function MiniFlight({
  disc,
  rating,
}: {
  disc: ShelvedDisc
  rating: { glide: number; turn: number; fade: number } | undefined
}) {
  const { speed } = disc.inForce.numbers
  const path = tracePath(
    { ...disc.inForce.numbers, ...rating, speed },
    STANDARD_BODY,
    referenceRelease(speed),
    STILL_AIR,
  )
  const scale = (WIDTH - 10) / Math.max(110, pathFeatures(path).carryM)
  const points = pathPoints(path, 40)
    .map((p) => `${4 + p.x * scale},${HEIGHT * 0.62 - p.y * scale}`)
    .join(' ')
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden className="shrink-0 rounded">
      <rect width={WIDTH} height={HEIGHT} style={{ fill: 'var(--mown)' }} />
      <line
        x1="4"
        x2={WIDTH - 4}
        y1={HEIGHT * 0.62}
        y2={HEIGHT * 0.62}
        strokeWidth="2"
        style={{ stroke: 'var(--chalk)' }}
      />
      <polyline
        points={points}
        fill="none"
        strokeWidth="2"
        style={{ stroke: hueOf(lookOf(disc.disc.code)) }}
      />
    </svg>
  )
}
