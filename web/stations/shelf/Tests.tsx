import { AxisText } from '../../charts/AxisText.tsx'
import { extent, scaleLinear, scalePoint } from 'd3'
import { format } from 'date-fns'
import { Z90 } from '../../../core/rating/normal.ts'
import type { DiscRecord } from '../../../contract/shelfPage.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, figure, powerWords } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { hueOf, lookOf } from '../../strip/hues.ts'
import { LandingDot } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

const [WIDTH, HEIGHT] = [420, 150]
const PAD = { left: 40, right: 14, top: 14, bottom: 26 }

/** Each day’s throws weighed on their own, so that a change shows; and the trials they were thrown for. */
export function Tests({ code, record, published }: { code: string; record: DiscRecord; published: number }) {
  const { tests, trials } = record
  const hue = hueOf(lookOf(code))
  return (
    <Card className="p-4" label="Tests">
      <h2 className="text-lead">Tests</h2>
      {tests.length === 0 && record.weighing ? (
        <p className="py-2 text-quiet">Weighing its days …</p>
      ) : tests.length === 0 ? (
        <p className="py-2 text-quiet">Never thrown in a trial. Start one to see how it really flies.</p>
      ) : (
        <div className="grid items-start gap-4 sm:grid-cols-[minmax(0,1fr)_15rem]">
          <div className="min-w-0">
            <figure>
              <figcaption className="mb-1 text-note text-quiet">
                stability as the flights of each day show it, on the scale of turn + fade, with 90 %
                intervals; the line is the label
              </figcaption>
              <Days tests={tests} published={published} hue={hue} />
            </figure>
            {record.throws.length > 0 && <Landings throws={record.throws} hue={hue} />}
          </div>
          <ul>
            {trials.map((t) => (
              <li key={t.id} className="border-b border-rule py-1.5 last:border-0">
                <StationLink
                  at="readout"
                  params={{ trialId: t.id }}
                  className="tap block font-medium underline underline-offset-4"
                >
                  {t.name}
                </StationLink>
                <span className="text-note text-quiet">
                  {t.throws} {t.throws === 1 ? 'throw' : 'throws'}
                  {t.leftOut > 0 && `, ${t.leftOut} left out`}, last on {format(t.last, 'd MMM yyyy')}
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {record.throws.length > 0 && <InFigures throws={record.throws} />}
    </Card>
  )
}

/** Where it landed, whoever threw it: the fade side up. */
function Landings({ throws, hue }: { throws: DiscRecord['throws']; hue: string }) {
  const veers = throws.map((t) => t.veerM)
  return (
    <div className="mt-3 border-t border-rule pt-3">
      <Strip
        height={420}
        fade="up"
        label={`Landings of ${throws.length} throws`}
        reach={{
          down: 1.06 * Math.max(...throws.map((t) => t.carryM)),
          left: Math.max(8, ...veers) + 2,
          right: Math.max(8, ...veers.map((v) => -v)) + 2,
        }}
      >
        {throws.map((t) => (
          <LandingDot key={t.id} at={{ down: t.carryM, left: t.veerM }} hue={hue} leftOut={!t.counts} />
        ))}
      </Strip>
    </div>
  )
}

/** The same throws as a table. */
function InFigures({ throws }: { throws: DiscRecord['throws'] }) {
  const units = useUnits()
  return (
    <details className="mt-1">
      <summary className="cursor-pointer py-1 text-quiet">
        {throws.length === 1 ? 'Its one throw' : `Its ${throws.length} latest throws`}, in figures
      </summary>
      <div className="max-h-80 overflow-y-auto" tabIndex={0} role="group" aria-label="Throws in figures">
        <table className="w-full text-left">
          <thead className="text-note text-quiet">
            <tr>
              {['thrown', 'by', 'release', 'landed', 'off the line', ''].map((h) => (
                <th key={h} className="font-normal">
                  {h || <span className="sr-only">left out</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {throws.map((t) => (
              <tr key={t.id} className="border-t border-rule">
                <td className="py-1">
                  <StationLink
                    at="readout"
                    params={{ trialId: t.trialId }}
                    className="underline underline-offset-4"
                  >
                    {format(new Date(t.thrownAt), 'd MMM yy, H:mm')}
                  </StationLink>
                </td>
                <td>{t.thrower}</td>
                <td>
                  {angleWords(t.hyzerDeg)}
                  {t.power < 1 && `, ${powerWords(t.power)}`}
                </td>
                <td className="figure">{units.length.show(t.carryM)}</td>
                <td className="figure">
                  {units.length.show(Math.abs(t.veerM))}{' '}
                  <span className="font-sans font-normal">{t.veerM >= 0 ? 'fade side' : 'turn side'}</span>
                </td>
                <td className="text-quiet">{!t.counts && `left out: ${t.whyNot ?? 'no reason given'}`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  )
}

function Days({ tests, published, hue }: { tests: DiscRecord['tests']; published: number; hue: string }) {
  const x = scalePoint(
    tests.map((t) => t.day),
    [PAD.left, WIDTH - PAD.right],
  ).padding(0.5)
  const [low, high] = extent([
    published,
    ...tests.flatMap((t) => [t.stability - Z90 * t.sd, t.stability + Z90 * t.sd]),
  ]) as [number, number]
  const y = scaleLinear([Math.floor(low), Math.ceil(high)], [HEIGHT - PAD.bottom, PAD.top])
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-[420px]"
      role="img"
      aria-label={tests.map((t) => `${t.day}: ${figure(t.stability, 1)} from ${t.throws} throws`).join('; ')}
    >
      {y
        .ticks(4)
        .filter(Number.isInteger)
        .map((t) => (
          <g key={t}>
            <line
              x1={PAD.left}
              x2={WIDTH - PAD.right}
              y1={y(t)}
              y2={y(t)}
              style={{ stroke: 'var(--rule)' }}
            />
            <AxisText x={PAD.left - 8} y={y(t) + 4} anchor="end">
              {figure(t, 0)}
            </AxisText>
          </g>
        ))}
      <line
        x1={PAD.left}
        x2={WIDTH - PAD.right}
        y1={y(published)}
        y2={y(published)}
        strokeWidth="2"
        style={{ stroke: 'var(--ink)' }}
      />
      <path d={`M${PAD.left} ${y(published) - 5}v10l6-5z`} style={{ fill: 'var(--ink)' }} />
      {tests.map((t) => (
        <g key={t.day} style={{ fill: hue }}>
          <rect
            x={x(t.day)! - 5}
            width="10"
            rx="5"
            y={y(t.stability + Z90 * t.sd)}
            height={Math.max(2, y(t.stability - Z90 * t.sd) - y(t.stability + Z90 * t.sd))}
            fillOpacity="0.3"
          />
          <circle cx={x(t.day)} cy={y(t.stability)} r="5.5" />
          <AxisText x={x(t.day)} y={HEIGHT - 6} words>
            {format(t.day, tests.length > 5 ? 'd/M' : 'd MMM yy')}
          </AxisText>
        </g>
      ))}
    </svg>
  )
}
