import { statements } from '../../../../core/judge/statements.ts'
import { PER_M } from '../../../../core/flight/side.ts'
import { Ladder } from '../../../charts/Ladder.tsx'
import { LimitLine } from '../../../charts/LimitLine.tsx'
import { Sentences } from '../../../charts/Sentences.tsx'
import { useUnits } from '../../../data/preferences.tsx'
import { wordingOf } from '../../../data/units.ts'
import { Card, Unanswered } from '../../../parts/Card.tsx'
import { AimedOff } from '../AimedOff.tsx'
import { Gusty } from '../Gusty.tsx'
import { WornCard } from '../Worn.tsx'
import { Disagreements } from '../Disagreements.tsx'
import { ExpectedCard } from '../Expected.tsx'
import { EyeCard } from '../EyeCard.tsx'
import { AnswerPicture } from '../../../pictures/Picture.tsx'
import { WhyCard } from '../Why.tsx'
import { Said } from '../Said.tsx'
import { SameLine } from '../SameLine.tsx'
import type { ViewProps } from './viewProps.ts'

/** The picture of the answer, what else can be said, what cannot, and what was expected. */
export function AnswerView(props: ViewProps) {
  const { view, reading, name, look, answer, expected } = props
  const told = answer.value
  return (
    <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_22rem] xl:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="grid min-w-0 gap-3">
        {answer.error && (
          <Card className="p-4">
            <Unanswered asked={answer} />
          </Card>
        )}
        {told && told.picture.kind !== 'nothing' && (
          <Card className="p-4" label="Picture of the answer">
            <AnswerPicture picture={told.picture} outcome={reading.outcome} {...{ expected, name, look }} />
          </Card>
        )}
        {told && told.besides.length + told.open.length > 0 && (
          <Card className="p-4" label="What else the answer says">
            <Said answer={told} />
          </Card>
        )}
        {view.trial.plan?.protocol === 'same-line' && <SameLine {...{ view, reading, name, look }} />}
        <ExpectedCard {...props} />
        {/* the answer comes first, on the screen and to be worked out */}
        {told && <EyeCard {...props} />}
      </div>
      <WhatYouCanSay {...props} />
    </div>
  )
}

/** Sentences about the discs, whatever was asked, and the ladder they stand on. */
function WhatYouCanSay({
  view,
  reading,
  settlings,
  limit,
  working,
  readFrom,
  apart,
  name,
  look,
  answer,
}: ViewProps) {
  const units = useUnits()
  const said = statements(reading.outcome, reading.ranks, wordingOf(units, name), settlings)
  return (
    <div className="grid min-w-0 gap-3">
      <Card className="p-4" label="What you can say">
        <h2 className="text-lead">What you can say</h2>
        {readFrom && <div className="mt-1 mb-2">{readFrom}</div>}
        <Sentences list={said} working={working} why={(s) => <WhyCard of={s.text} discs={s.discs} />} />
        {apart && <Disagreements list={apart} fadeSide={reading.outcome.fadeSide} name={name} />}
        <AimedOff view={view} aims={reading.outcome.aims} />
        <WornCard worn={reading.outcome.worn} name={name} />
        <Gusty gusts={reading.outcome.gusts} />
        <LimitLine limit={limit} />
        {view.trial.controlDiscId === null && (
          <p className="mt-2 text-note text-quiet">
            No control disc: a habit of the thrower and a bias shared by all discs cannot be told apart here.
            The order of the discs does not suffer from it.
          </p>
        )}
      </Card>
      {answer.value?.picture.kind !== 'ladder' && (
        <Card className="p-4" label="Ladder of stability">
          <h2 className="mb-1 text-lead">Stability, most to least</h2>
          <Ladder discs={reading.outcome.discs} name={name} look={look} />
          <p className="mt-1 text-note text-quiet">
            How far to the fade side it flies on average, a flight of {units.length.show(PER_M, 0)}, over
            hyzer, flat and anhyzer.
          </p>
        </Card>
      )}
    </div>
  )
}
