import { z } from 'zod'
import { useKept } from '../../data/useKept.ts'
import { Button } from '../../parts/Button.tsx'
import type { ArmToday } from './useArms.ts'

/** What was read on this device that day: each caution once. */
const Read = z.array(z.string())

interface CautionsProps {
  readonly day: string
  readonly temperatureC: number | null
  /** Nothing has been thrown on this outing. */
  readonly fresh: boolean
  readonly arms: readonly ArmToday[]
}

const COLD_C = 5
const HOT_C = 28

/** The usual cautions where they apply, plain, each once a day: before the first throw, and when an arm has had its share. */
export function Cautions({ day, temperatureC, fresh, arms }: CautionsProps) {
  const [read, keep] = useKept('veer-line.cautions', day, Read, [])
  const understood = (what: string) => keep([...read, what])
  const weather =
    temperatureC === null || (temperatureC >= COLD_C && temperatureC <= HOT_C)
      ? undefined
      : temperatureC < COLD_C
        ? 'It is cold: warm up longer; stiff discs rebound far from trees.'
        : 'It is hot: water, shade, pauses; stop when you feel unwell.'
  const spent = arms.filter((a) => a.spent && !read.includes(a.thrower.id))
  return (
    <>
      {!read.includes('range') && (
        <Caution label="Before you throw" done="The range is clear" onDone={() => understood('range')}>
          <strong>Before you throw:</strong> the range is clear and stays clear, nobody downrange or beside a
          tree you throw at, a spotter where you cannot see it land. Follow the park’s and local rules. In the
          wet, a shorter run-up. Warm up, and stop on pain; this is no medical advice.
        </Caution>
      )}
      {weather !== undefined && fresh && !read.includes('weather') && (
        <Caution label="The weather" done="Understood" onDone={() => understood('weather')}>
          {weather}
        </Caution>
      )}
      {spent.map((a) => (
        <Caution
          key={a.thrower.id}
          label="The arm’s budget"
          done="Understood"
          onDone={() => understood(a.thrower.id)}
        >
          <strong>{a.thrower.name} has thrown what this arm’s budget allows.</strong> Rest it, or go on with
          another arm; stop on pain. This is no medical advice: ask a professional when something hurts.
        </Caution>
      ))}
    </>
  )
}

function Caution({
  label,
  done,
  onDone,
  children,
}: {
  label: string
  done: string
  onDone: () => void
  children: React.ReactNode
}) {
  return (
    <section
      aria-label={label}
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-accent bg-card px-4 py-2.5 phone:order-2 phone:mx-3"
    >
      <p className="min-w-60 flex-1 text-note">{children}</p>
      <Button onClick={onDone}>{done}</Button>
    </section>
  )
}
