import { Download, Upload } from 'lucide-react'
import { useState } from 'react'
import type { Throw } from '../../../../contract/trials.ts'
import { usePlaces } from '../../../data/hooks.ts'
import { outbox } from '../../../data/outbox.ts'
import { Button, buttonLook } from '../../../parts/Button.tsx'
import { Card } from '../../../parts/Card.tsx'
import { StationLink } from '../../../parts/StationLink.tsx'
import { say } from '../../../data/say.ts'
import { Throws } from '../Throws.tsx'
import { Without } from '../Without.tsx'
import type { ViewProps } from './viewProps.ts'

/** Every throw, files of them in and out, and what would be without one. */
export function ThrowsView(props: ViewProps) {
  const { view, reading, name, answer } = props
  const { trial } = view
  const [without, setWithout] = useState<{ thrown: Throw; number: number }>()
  const places = usePlaces()
  // where a place says where it is, its throws can be laid on a map
  const isPlaced = view.sessions.some((s) => {
    const place = places.find((p) => p.id === s.placeId)
    return place?.latDeg != null && place.bearingDeg !== null && view.throws.some((t) => t.sessionId === s.id)
  })
  const counted = view.throws.filter((t) => t.counts).length
  const finish = async () => {
    const next = { ...trial, finishedAt: trial.finishedAt === null ? new Date().toISOString() : null }
    await outbox.put('trials', next)
    say(next.finishedAt ? `${trial.name} is finished.` : `${trial.name} is open again.`)
  }
  return (
    <Card className="min-w-0 p-4" label="Throws">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-lead">
          Throws{' '}
          <span className="font-sans text-note font-normal text-quiet">
            {view.throws.length - counted} left out, each with its reason
          </span>
        </h2>
        <a href={`/api/trials/${trial.id}/throws.csv`} download className={buttonLook()}>
          <Download size={16} aria-hidden /> Export CSV
        </a>
        <a
          href={`/api/trials/${trial.id}/package`}
          download
          title="The whole trial, for another reviewer to bring in beside their own"
          className={buttonLook('plain', 'max-lg:hidden')}
        >
          <Download size={16} aria-hidden /> Package
        </a>
        {isPlaced &&
          (['geojson', 'gpx'] as const).map((format) => (
            <a
              key={format}
              href={`/api/trials/${trial.id}/throws.${format}`}
              download
              className={buttonLook('plain', 'max-lg:hidden')}
            >
              <Download size={16} aria-hidden /> {format === 'gpx' ? 'GPX' : 'GeoJSON'}
            </a>
          ))}
        <StationLink at="readout/import" params={{ trialId: trial.id }} className={buttonLook()}>
          <Upload size={16} aria-hidden /> Import CSV
        </StationLink>
        <Button onClick={() => void finish()}>
          {trial.finishedAt === null ? 'Call it finished' : 'Open it again'}
        </Button>
      </div>
      <Throws
        view={view}
        outcome={reading.outcome}
        name={name}
        onWithout={(thrown, number) => setWithout({ thrown, number })}
      />
      {without && (
        <Without {...props} {...without} answer={answer.value} onClose={() => setWithout(undefined)} />
      )}
    </Card>
  )
}
