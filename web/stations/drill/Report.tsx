import { mean, rollups, utcDay, utcMonday } from 'd3'
import { format } from 'date-fns'
import { useMemo } from 'react'
import type { DrillAnswer } from '../../../contract/drill.ts'
import { eyeOf } from '../../../core/drill/watcher.ts'
import { kindsSoFar } from '../../../core/drill/soFar.ts'
import { surenessOf } from '../../../core/drill/sureness.ts'
import { biasWords, reliabilityWords, surenessWords } from '../../../core/drill/words.ts'
import { capital } from '../../../contract/words.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure, percent } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { DRILL_WORDS } from './kinds.ts'

/** Weeks that are shown. */
const WEEKS = 10

/** What an eye is like by now: its biases, how far it is off, and how it fared week by week. */
export function Report({ answers }: { answers: readonly DrillAnswer[] }) {
  const { length } = useUnits()
  const eye = useMemo(() => eyeOf(answers), [answers])
  const sizes = { metres: (m: number) => length.show(m) }
  const biases = eye.flatMap((e) =>
    e.biases.filter((b) => b.isSure).map((b) => biasWords(e.measure, b, sizes)),
  )
  const sure = useMemo(() => surenessOf(answers), [answers])
  const kinds = useMemo(() => kindsSoFar(answers), [answers])
  const weeks = useMemo(
    () =>
      rollups(
        answers,
        (of) => ({
          answers: of.length,
          points: mean(of, (a) => a.points)!,
          right: of.filter((a) => a.right).length / of.length,
        }),
        (a) => utcMonday(new Date(a.answeredAt)).getTime(),
      )
        .sort((a, b) => b[0] - a[0])
        .slice(0, WEEKS),
    [answers],
  )
  if (answers.length === 0) return null
  const findings = [...biases, ...sure.filter((s) => s.isSure).map(surenessWords)]
  return (
    <Card className="p-4" label="Your eye">
      <h2 className="text-lead">Your eye</h2>
      {findings.length > 0 ? (
        <ul className="mt-1 grid gap-1">
          {findings.map((words) => (
            <li key={words} className="font-medium">
              {words}
            </li>
          ))}
        </ul>
      ) : (
        <p className="mt-1">
          No bias is sure yet, after {answers.length} {answers.length === 1 ? 'answer' : 'answers'}.
        </p>
      )}
      <ul className="mt-2 text-quiet">
        {eye.map((e) => (
          <li key={e.measure}>{reliabilityWords(e, sizes)}</li>
        ))}
        {sure
          .filter((s) => !s.isSure)
          .map((s) => (
            <li key={s.of}>{surenessWords(s)}</li>
          ))}
      </ul>
      <div className="mt-3 grid gap-x-8 gap-y-3 md:grid-cols-2">
        <Figures
          label="By question"
          first="Asked"
          last="how hard by now"
          rows={kinds.map((k) => ({
            key: k.kind,
            name: capital(DRILL_WORDS[k.kind]),
            ...k,
            last: percent(k.level),
          }))}
        />
        <Figures
          label="By week"
          first="Week of"
          rows={weeks.map(([week, w]) => ({
            key: String(week),
            name: format(utcDay(new Date(week)), 'd MMM yyyy'),
            ...w,
          }))}
        />
      </div>
    </Card>
  )
}

interface FiguresProps {
  readonly label: string
  readonly first: string
  readonly last?: string
  readonly rows: readonly {
    readonly key: string
    readonly name: string
    readonly answers: number
    readonly right: number
    readonly points: number
    readonly last?: string
  }[]
}

/** How answers fared, by what they have in common. */
const Figures = ({ label, first, last, rows }: FiguresProps) => (
  <table className="w-full self-start" aria-label={label}>
    <thead className="text-left text-note text-quiet">
      <tr>
        <th className="py-1 font-medium">{first}</th>
        <th className="py-1 text-right font-medium">answers</th>
        <th className="py-1 text-right font-medium">right</th>
        <th className="py-1 text-right font-medium">points</th>
        {last && <th className="py-1 text-right font-medium">{last}</th>}
      </tr>
    </thead>
    <tbody className="divide-y divide-rule">
      {rows.map((r) => (
        <tr key={r.key}>
          <th scope="row" className="py-1.5 text-left font-medium">
            {r.name}
          </th>
          <td className="figure text-right">{r.answers}</td>
          <td className="figure text-right">{percent(r.right)}</td>
          <td className="figure text-right">{figure(r.points, 0)}</td>
          {last && <td className="figure text-right">{r.last}</td>}
        </tr>
      ))}
    </tbody>
  </table>
)
