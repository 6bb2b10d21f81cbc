import { useState } from 'react'
import { Button } from '../../parts/Button.tsx'

const KEY = 'veer-line.cautions'

/** The usual cautions, plain, once an outing. */
export function Cautions({ day }: { day: string }) {
  const [read, setRead] = useState(() => localStorage.getItem(KEY) === day)
  if (read) return null
  return (
    <section
      aria-label="Before you throw"
      className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-xl border border-accent bg-card px-4 py-2.5 max-md:order-2 max-md:mx-3"
    >
      <p className="min-w-60 flex-1 text-note">
        <strong>Before you throw:</strong> the range is clear and stays clear, nobody downrange or beside a
        tree you throw at, a spotter where you cannot see. Follow the park’s and local rules. Warm up, and
        stop on pain; this is no medical advice.
      </p>
      <Button
        onClick={() => {
          localStorage.setItem(KEY, day)
          setRead(true)
        }}
      >
        The range is clear
      </Button>
    </section>
  )
}
