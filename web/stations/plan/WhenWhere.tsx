import { at } from '../../../contract/api.ts'
import { addDays, format } from 'date-fns'
import { CalendarPlus, MapPin } from 'lucide-react'
import { useState } from 'react'
import { v7 as newId } from 'uuid'
import { bestWindow } from '../../../core/plan/window.ts'
import type { ForecastHour, Window, Wish } from '../../../core/plan/window.ts'
import type { Place } from '../../../contract/trials.ts'
import type { Plan, Trial } from '../../../contract/trials.ts'
import { usePlaces, useRead } from '../../data/hooks.ts'
import { zoneHere } from '../../data/outing.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { HoursChart } from './HoursChart.tsx'
import { PlaceDialog } from './PlaceDialog.tsx'
import { questionOf } from '../../../core/plan/questions.ts'
import { Select } from '../../parts/Select.tsx'

/** Room wanted beyond the longest throw, for a skip and for slips. */
const BEYOND = 1.12
/** Days ahead that are forecast. */
const DAYS = 5
const COLD_C = 5
const HOT_C = 28

interface WhenWhereProps {
  readonly trial: Trial
  readonly plan: Plan
  readonly minutes: number
  /** Longest throw expected, m. */
  readonly longestM: number
  readonly onPlan: (change: Partial<Plan>) => void
}

/** What a place is like, and whether it is long enough for the longest throw that is expected, m. */
function PlaceSaid({ place, longestM }: { readonly place: Place; readonly longestM: number }) {
  const units = useUnits()
  const wanted = longestM * BEYOND
  return (
    <>
      <p className="text-quiet">
        {[
          place.fieldLengthM !== null && `${units.length.show(place.fieldLengthM, 0)} long`,
          place.bearingDeg !== null && `aim to ${compass(place.bearingDeg)}`,
          place.surface,
          place.hazards && `mind: ${place.hazards}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      {place.fieldLengthM !== null && place.fieldLengthM < wanted && (
        <p role="alert" className="font-medium text-accent">
          The longest throw is expected to land {units.length.show(longestM, 0)} out; with room to skip it
          wants {units.length.show(wanted, 0)}, and {place.name} is {units.length.show(place.fieldLengthM, 0)}{' '}
          long. Ease the power or take a longer field.
        </p>
      )}
    </>
  )
}

interface BestProps extends Pick<WhenWhereProps, 'trial' | 'plan' | 'minutes' | 'onPlan'> {
  readonly data: { readonly hours: readonly ForecastHour[]; readonly device: string }
  readonly window: Window
  /** Hours it takes. */
  readonly take: number
  /** Where the aim line points, degrees. */
  readonly bearing: number
}

/** The hours that suit best, what they are like, and the plan for then. */
function Best({ trial, plan, minutes, data, window, take, bearing, onPlan }: BestProps) {
  const units = useUnits()
  const startsAt = new Date(data.hours[window.from]!.at).toISOString()
  return (
    <>
      <HoursChart hours={data.hours} window={window} bearing={bearing} source={data.device} />
      <p role="status">
        <strong>
          {format(new Date(data.hours[window.from]!.at), 'EEE d MMM, H:mm')} to{' '}
          {format(new Date(Date.parse(data.hours[window.from]!.at) + take * 3_600_000), 'H:mm')}
        </strong>
        : {units.speed.show(window.windMps)}, gusts {units.speed.show(window.gustMps)},{' '}
        {Math.abs(window.alongMps) < 0.5
          ? 'hardly any along the line'
          : `${units.speed.show(Math.abs(window.alongMps))} ${window.alongMps < 0 ? 'in the face' : 'from behind'} on the way out`}
        , {units.temperature.show(window.temperatureC, 0)}
        {window.rainMm > 0 ? `, ${window.rainMm.toFixed(1)} mm of rain` : ', dry'}.
        {window.temperatureC < COLD_C &&
          ' Cold hands grip badly, and stiff plastic rebounds far: warm up longer.'}
        {window.temperatureC > HOT_C && ' Heat: water, shade, pauses.'}
        {window.rainMm > 0 && ' Wet footing: plant with care.'}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button
          onClick={() => onPlan({ startsAt, windMps: Math.round(10 * Math.abs(window.alongMps)) / 10 })}
        >
          {plan.startsAt === startsAt ? 'Planned for then' : 'Plan it for then'}
        </Button>
        {plan.startsAt !== null && (
          <a
            href={`/api/trials/${trial.id}/session.ics?minutes=${Math.round(minutes)}`}
            className={buttonLook()}
            download
          >
            <CalendarPlus size={16} aria-hidden /> To the calendar
          </a>
        )}
        {plan.startsAt !== null && (
          <span className="text-note text-quiet">
            planned {format(new Date(plan.startsAt), 'EEE d MMM, H:mm')}; the plan counts on{' '}
            {units.speed.show(plan.windMps)} along the line
          </span>
        )}
      </div>
    </>
  )
}

/** Where to throw, and when the wind is as the question wants it. */
export function WhenWhere({ trial, plan, minutes, longestM, onPlan }: WhenWhereProps) {
  const places = usePlaces()
  const place = places.find((p) => p.id === plan.placeId)
  const [edited, setEdited] = useState<Place>()
  const days = Array.from({ length: DAYS }, (_, i) => format(addDays(new Date(), i), 'yyyy-MM-dd'))
  const planned = plan.startsAt === null ? undefined : format(new Date(plan.startsAt), 'yyyy-MM-dd')
  const [picked, setPicked] = useState<string>()
  const day = picked ?? planned ?? days[0]!
  const [wish, setWish] = useState<Wish>(questionOf(plan.kind).wantsWind ? 'steadiest' : 'calmest')
  const { data } = useRead(at('GET /api/devices/forecast', { place: place?.name ?? 'here', day }))
  const take = Math.min(6, Math.max(1, Math.ceil(minutes / 60)))
  const bearing = place?.bearingDeg ?? 0
  const window = data && bestWindow(data.hours, bearing, take, wish)
  const blank = (): Place => ({
    id: newId(),
    name: '',
    fieldLengthM: null,
    bearingDeg: null,
    altitudeM: null,
    surface: '',
    hazards: '',
    timeZone: zoneHere(),
    removedAt: null,
  })
  return (
    <Card className="p-4" label="Where and when">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-lead">Where and when</h2>
        <MapPin size={18} aria-hidden className="text-quiet" />
        <Select
          hideLabel
          label="Place"
          value={plan.placeId}
          onChange={(v) => {
            if (v === 'new') setEdited(blank())
            else onPlan({ placeId: v })
          }}
          options={[
            { value: null, words: 'no place yet' },
            ...places
              .filter((p) => p.removedAt === null || p.id === plan.placeId)
              .map((p) => ({ value: p.id, words: p.name })),
            { value: 'new', words: 'a new place …' },
          ]}
        />
        {place && <Button onClick={() => setEdited(place)}>Edit place</Button>}
      </div>
      {place && <PlaceSaid place={place} longestM={longestM} />}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Choice
          label="Day"
          value={day}
          options={[...new Set([...(planned ? [planned] : []), ...days])]
            .sort()
            .slice(0, DAYS + 1)
            .map((d) => ({ value: d, label: format(d, 'EEE d') }))}
          onChange={setPicked}
        />
        <Choice
          label="Wind wanted"
          value={wish}
          options={[
            { value: 'calmest', label: 'calmest' },
            { value: 'steadiest', label: 'steady along the line' },
          ]}
          onChange={setWish}
        />
      </div>
      {data && window && (
        <Best
          {...{ trial, plan, minutes, data, window, take, bearing }}
          onPlan={(change) => {
            setPicked(undefined)
            onPlan(change)
          }}
        />
      )}
      {edited && (
        <PlaceDialog
          place={edited}
          onClose={() => setEdited(undefined)}
          onKept={(id) => onPlan({ placeId: id })}
        />
      )}
    </Card>
  )
}

const POINTS = [
  'north',
  'north-east',
  'east',
  'south-east',
  'south',
  'south-west',
  'west',
  'north-west',
] as const
const compass = (deg: number) => `${POINTS[Math.round(deg / 45) % 8]} (${Math.round(deg)}°)`
