import { mean, rollups, utcDay, utcMonday } from 'd3'
import { useMemo } from 'react'
import type { DrillAnswer } from '../../../contract/drill.ts'
import { eyeOf } from '../../../core/drill/watcher.ts'
import { biasWords, reliabilityWords } from '../../../core/drill/words.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure, percent } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'

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
  return (
    <Card className="p-4" label="Your eye">
      <h2 className="text-lead">Your eye</h2>
      {biases.length > 0 ? (
        <ul className="mt-1 grid gap-1">
          {biases.map((words) => (
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
      {eye.length > 0 && (
        <ul className="mt-2 text-quiet">
          {eye.map((e) => (
            <li key={e.measure}>{reliabilityWords(e, sizes)}</li>
          ))}
        </ul>
      )}
      <table className="mt-3 w-full max-w-lg">
        <thead className="text-left text-note text-quiet">
          <tr>
            <th className="py-1 font-medium">Week of</th>
            <th className="py-1 text-right font-medium">answers</th>
            <th className="py-1 text-right font-medium">right</th>
            <th className="py-1 text-right font-medium">points, mean</th>
          </tr>
        </thead>
        <tbody className="divide-y divide-rule">
          {weeks.map(([week, w]) => (
            <tr key={week}>
              <th scope="row" className="py-1.5 text-left font-medium">
                {utcDay(new Date(week)).toISOString().slice(0, 10)}
              </th>
              <td className="figure text-right">{w.answers}</td>
              <td className="figure text-right">{percent(w.right)}</td>
              <td className="figure text-right">{figure(w.points, 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Card>
  )
}
