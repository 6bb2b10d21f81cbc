import { Ruler } from 'lucide-react'
import { useState } from 'react'
import { EDGES, FEEL } from '../../../core/shelf/inspection.ts'
import { rimSection } from '../../../core/shelf/rim.ts'
import type { Inspection } from '../../../contract/inspection.ts'
import type { InspectedDisc } from '../../../contract/shelfPage.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { RimDrawing } from '../../charts/RimDrawing.tsx'
import type { Align, DrawnRim } from '../../charts/RimDrawing.tsx'
import { Select } from '../../parts/Select.tsx'
import { looksOf } from '../../strip/hues.ts'

export const shortName = (d: Pick<ShelvedDisc, 'disc' | 'mold' | 'plastic'>) =>
  `${d.disc.code}, ${d.mold.name} ${d.plastic.name}`

interface RimCardProps {
  readonly disc: ShelvedDisc
  readonly inspection: Inspection | undefined
  /** Inspected discs it can be laid over, the nearest kin first. */
  readonly others: readonly InspectedDisc[]
  /** Ids of those it is laid over, one or two. */
  readonly over: readonly string[]
  readonly onOver: (ids: readonly string[]) => void
  readonly onInspect: () => void
}

/** The rim and half cross-section from what was measured, alone or laid over one or two others. */
export function RimCard({ disc, inspection, others, over, onOver, onInspect }: RimCardProps) {
  const [align, setAlign] = useState<Align>('parting line')
  const beside = over.flatMap((id) => others.find((o) => o.row.disc.id === id) ?? [])
  const look = looksOf([disc, ...beside.map((o) => o.row)].map((d) => d.disc.code))
  const section = inspection && rimSection(inspection)
  const rims: DrawnRim[] = []
  if (section && 'outline' in section) {
    rims.push({ section, look: look(disc.disc.code) })
    beside.forEach((o) => {
      const s = rimSection(o.inspection)
      if ('outline' in s) rims.push({ section: s, look: look(o.row.disc.code) })
    })
  }
  const pick = (slot: number) => (
    <label className="flex items-center gap-2">
      {beside[slot] ? <DiscDot look={look(beside[slot].row.disc.code)} /> : <span className="w-4.5" />}
      <Select
        hideLabel
        label={slot === 0 ? 'Laid over' : 'And over'}
        value={over[slot] ?? null}
        onChange={(v) => {
          const next = [...over]
          if (v === null) next.splice(slot, 1)
          else next[slot] = v
          onOver(next)
        }}
        className="min-w-0 flex-1"
        options={[
          { value: null, words: slot === 0 ? 'lay it over …' : 'and over …' },
          ...others
            .filter((o) => o.row.disc.id === over[slot] || !over.includes(o.row.disc.id))
            .map((o) => ({ value: o.row.disc.id, words: shortName(o.row) })),
        ]}
      />
    </label>
  )
  return (
    <Card className="p-4" label="Rim and profile">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-lead">Rim and profile, to scale</h2>
        {rims.length > 1 && (
          <Choice
            label="Align"
            value={align}
            options={(['parting line', 'base'] as const).map((value) => ({ value, label: `align ${value}` }))}
            onChange={setAlign}
          />
        )}
        <Button onClick={onInspect}>
          <Ruler size={16} aria-hidden /> {inspection ? 'Inspect again' : 'Inspect it'}
        </Button>
      </div>
      {!inspection ? (
        <p className="py-4 text-quiet">
          Nobody has measured this disc yet. With a caliper it takes two minutes: diameter, height, the rim’s
          depth and width, and how high the parting line sits.
        </p>
      ) : (
        <>
          <div className="grid items-center gap-4 sm:grid-cols-[minmax(0,1fr)_15rem]">
            {rims.length > 0 ? (
              <RimDrawing rims={rims} align={align} />
            ) : (
              <p className="py-6 text-quiet">
                {section && 'missing' in section && section.conflict
                  ? `This cannot be: ${section.conflict}. Measure again.`
                  : `To draw it, measure ${section && 'missing' in section ? section.missing.join(', ') : ''} too.`}
              </p>
            )}
            <div className="space-y-2">
              <p className="flex items-center gap-2">
                <DiscDot look={look(disc.disc.code)} /> this disc, {disc.disc.code}
              </p>
              {others.length > 0 && pick(0)}
              {over.length > 0 && others.length > 1 && pick(1)}
              {section && 'outline' in section && section.assumed.length > 0 && (
                <p className="text-note text-quiet">
                  Not measured, drawn as is usual: {section.assumed.join(', ')}.
                </p>
              )}
            </div>
          </div>
          <Figures inspection={inspection} beside={beside[0]?.inspection} />
        </>
      )}
    </Card>
  )
}

function Figures({ inspection: i, beside }: { inspection: Inspection; beside: Inspection | undefined }) {
  const units = useUnits()
  const versus = (
    key: 'partingLineMm' | 'domeMm' | 'rimDepthMm' | 'rimWidthMm' | 'heightMm' | 'noseDeg',
    more: string,
    less: string,
  ) => {
    const [a, b] = [i[key], beside?.[key] ?? null]
    if (a === null || b === null || Math.abs(a - b) < 0.05) return undefined
    return `${Math.abs(a - b).toFixed(1)} ${a > b ? more : less}`
  }
  const mm = (v: number | null) => (v === null ? '–' : `${v.toFixed(1)} mm`)
  const list: readonly (readonly [what: string, figure: string, note: string | undefined])[] = [
    ['Parting line', mm(i.partingLineMm), versus('partingLineMm', 'higher', 'lower')],
    ['Dome', mm(i.domeMm), versus('domeMm', 'more', 'flatter')],
    [
      'Rim, deep × wide',
      `${i.rimDepthMm?.toFixed(1) ?? '–'} × ${i.rimWidthMm?.toFixed(1) ?? '–'} mm`,
      versus('rimDepthMm', 'deeper', 'shallower'),
    ],
    [
      'Diameter × height',
      `${i.diameterMm ?? '–'} × ${i.heightMm ?? '–'} mm`,
      versus('heightMm', 'higher', 'lower'),
    ],
    [
      'Nose',
      i.noseDeg === null ? '–' : `${i.noseDeg}°`,
      i.edge === null ? undefined : `${EDGES[i.edge]} edge`,
    ],
    [
      i.temperatureC === null ? 'Feel' : `Feel at ${units.temperature.show(i.temperatureC, 0)}`,
      [
        i.stiffness === null ? undefined : FEEL.stiffness[i.stiffness],
        i.grip === null ? undefined : FEEL.grip[i.grip],
      ]
        .filter(Boolean)
        .join(', ') || '–',
      beside?.stiffness == null || i.stiffness === null || beside.stiffness === i.stiffness
        ? undefined
        : `${Math.abs(i.stiffness - beside.stiffness)} ${i.stiffness > beside.stiffness ? 'stiffer' : 'softer'}`,
    ],
    ['Bead', i.bead === null ? '–' : i.bead ? 'yes' : 'none', undefined],
  ]
  return (
    <dl className="mt-3 flex flex-wrap gap-x-6 gap-y-2 border-t border-rule pt-3">
      {list
        .filter(([, figure]) => !figure.startsWith('–'))
        .map(([what, figure, note]) => (
          <div key={what}>
            <dt className="text-note text-quiet">{what}</dt>
            <dd>
              <span className="figure">{figure}</span>{' '}
              {note && <span className="text-note text-quiet">{note}</span>}
            </dd>
          </div>
        ))}
    </dl>
  )
}
