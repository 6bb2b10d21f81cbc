import type { Throw } from '../../contract/trials.ts'
import type { Slip, SlippedThrow } from '../../core/judge/slips.ts'
import type { TrialView } from '../data/hooks.ts'
import { outbox } from '../data/outbox.ts'
import { useUnits } from '../data/preferences.tsx'
import { putRight } from '../workers/slips.ts'
import { angleWords, aside, percent } from '../data/units.ts'
import type { Units } from '../data/units.ts'
import { Button } from './Button.tsx'
import { say } from '../data/say.ts'

interface SlipQuestionProps {
  readonly view: TrialView
  readonly name: (code: string) => string
  readonly slipped: SlippedThrow
}

/** Asks whether a throw was logged wrong: one press puts it right, another has it stand and not be asked about again. */
export function SlipQuestion({ view, name, slipped }: SlipQuestionProps) {
  const units = useUnits()
  const place = view.throws.findIndex((t) => t.id === slipped.throw)
  const thrown = view.throws[place]
  if (!thrown) return null
  const idOf = (code: string) => view.discs.find((d) => d.disc.code === code)!.disc.id
  const nameOf = (t: Throw) => name(view.discs.find((d) => d.disc.id === t.discId)?.disc.code ?? '')
  const right = putRight(thrown, slipped.slip, idOf)
  const words = {
    was: wordsOf(slipped.slip, right, nameOf, units),
    is: wordsOf(slipped.slip, thrown, nameOf, units),
  }
  const number = `Throw ${place + 1}`
  const keep = (row: Throw, said: string) => {
    void outbox.put('throws', row)
    say(said, { label: 'As it was', run: () => void outbox.put('throws', { ...thrown, checked: null }) })
  }
  return (
    <>
      <span className="min-w-60 flex-1">
        <strong>
          {number} reads like {words.was}
        </strong>
        , <span className="figure">{percent(slipped.probability)}</span>; {words.is} is in the log.
      </span>
      <span className="flex flex-wrap gap-2">
        <Button onClick={() => keep(right, `${number} is ${words.was} now.`)}>It was {words.was}</Button>
        <Button onClick={() => keep({ ...thrown, checked: true }, `${number} stands as it was logged.`)}>
          It was {words.is}
        </Button>
      </span>
    </>
  )
}

/** What a throw is in the respect in which it may be a slip. */
function wordsOf(slip: Slip, t: Throw, nameOf: (t: Throw) => string, units: Units): string {
  switch (slip.kind) {
    case 'disc':
      return nameOf(t)
    case 'side':
      return aside(units, t.rightM)
    case 'angle':
      return angleWords(t.hyzerDeg)
    case 'feet':
    case 'metres':
      return units.length.show(t.carryM, 0)
  }
}
