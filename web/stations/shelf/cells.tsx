import { useState } from 'react'
import { WEAR_STATES } from '../../../contract/shelf.ts'
import { SHEET_RANGE } from '../../../core/throw/ranges.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { changeDiscs } from '../../data/shelfPage.ts'
import { FigureInput } from '../../parts/Inputs.tsx'
import { sayWrong } from '../../data/say.ts'
import { Select, plainOptions } from '../../parts/Select.tsx'

const QUIET_BOX = 'rounded-md border border-transparent bg-transparent hover:border-edge hover:bg-card'

/** Wear, changed where it stands. */
export function WearCell({ disc: { disc } }: { disc: ShelvedDisc }) {
  return (
    <Select
      hideLabel
      label={`Wear of ${disc.code}`}
      value={disc.wear}
      onChange={(wear) => void changeDiscs([disc], { wear }, `${disc.code} is ${wear}.`)}
      look="line"
      boxClass="-ml-1"
      options={plainOptions(WEAR_STATES)}
    />
  )
}

/** Grams, on the scale or as marked; typed where they stand. Enter keeps, Escape leaves. */
export function WeightCell({ disc: { disc } }: { disc: ShelvedDisc }) {
  const [typed, setTyped] = useState<number | null>()
  const grams = disc.weighedG ?? disc.markedG
  if (typed === undefined)
    return (
      <button
        type="button"
        aria-label={`Weigh ${disc.code}, now ${grams === null ? 'not known' : `${grams} g`}`}
        className={`-ml-1.5 min-h-8 px-1.5 text-left ${QUIET_BOX}`}
        onClick={() => setTyped(disc.weighedG)}
      >
        <span className="figure whitespace-nowrap">{grams ?? '–'} g</span>
        {disc.weighedG === null && (
          <span className="text-note text-quiet"> {disc.markedG === null ? 'unknown' : 'marked'}</span>
        )}
      </button>
    )
  const keep = () => {
    setTyped(undefined)
    if (typed === disc.weighedG) return
    const [low, high] = SHEET_RANGE.weightG
    if (typed !== null && (typed < low || typed > high))
      return sayWrong(`A disc weighs between ${low} and ${high} g; ${disc.code} keeps what it had.`)
    const done = typed === null ? `${disc.code} is not weighed.` : `${disc.code} weighs ${typed} g.`
    void changeDiscs([disc], { weighedG: typed }, done)
  }
  return (
    <form
      className="w-28"
      onSubmit={(e) => {
        e.preventDefault()
        keep()
      }}
      onKeyDown={(e) => e.key === 'Escape' && setTyped(undefined)}
      onBlur={keep}
    >
      <FigureInput
        label={`Weight of ${disc.code}`}
        hideLabel
        unit="g"
        value={typed}
        onChange={setTyped}
        ref={(input) => input?.focus()}
      />
    </form>
  )
}
