import type { LiveView } from '../../../../core/review/document.ts'
import { AnswerPicture } from '../../../pictures/Picture.tsx'
import { useSources } from '../sources.tsx'
import type { Source } from '../sources.tsx'
import { DiscsBlock } from './DiscsBlock.tsx'
import { FlightsBlock } from './FlightsBlock.tsx'
import { PairsBlock } from './PairsBlock.tsx'
import { RimsBlock } from './RimsBlock.tsx'
import { ThrowsBlock } from './ThrowsBlock.tsx'

/** The picture of one of the answers of a trial. */
function AnswerBlock({
  source,
  of,
}: {
  readonly source: Source
  readonly of: 'question' | 'numbers' | 'arms' | 'wind'
}) {
  const answer = source.answers[of === 'question' ? source.question : of]
  if (!answer || answer.picture.kind === 'nothing')
    return <Nothing>The throws draw no picture of this.</Nothing>
  const { view, reading, name, look } = source
  const expected = (view.trial.plan?.expected ?? []).flatMap(
    (id) => view.discs.find((d) => d.disc.id === id)?.disc.code ?? [],
  )
  return <AnswerPicture picture={answer.picture} outcome={reading.outcome} {...{ expected, name, look }} />
}

const Nothing = ({ children }: { readonly children: string }) => (
  <p className="rounded-lg border border-rule px-3 py-2 text-note text-quiet">{children}</p>
)

const SHOWN: Readonly<Record<LiveView, (source: Source) => React.ReactNode>> = {
  discs: (source) => <DiscsBlock source={source} />,
  answer: (source) => <AnswerBlock source={source} of="question" />,
  flights: (source) => <FlightsBlock source={source} />,
  numbers: (source) => <AnswerBlock source={source} of="numbers" />,
  arms: (source) => <AnswerBlock source={source} of="arms" />,
  wind: (source) => <AnswerBlock source={source} of="wind" />,
  pairs: (source) => <PairsBlock source={source} />,
  throws: (source) => <ThrowsBlock source={source} counted />,
  'left-out': (source) => <ThrowsBlock source={source} counted={false} />,
  'in-the-hand': (source) => <RimsBlock source={source} />,
}

/** A view of a trial inside a review; a trial that is gone is said to be gone. */
export function LiveBlock({ trial, view }: { readonly trial: string; readonly view: LiveView }) {
  const source = useSources().get(trial)
  if (source === null)
    return (
      <Nothing>
        The trial this showed is not there any more. Take the block out, or bring the trial back.
      </Nothing>
    )
  if (!source) return <Nothing>Weighing the throws …</Nothing>
  if (source.view.throws.length === 0 && view !== 'discs' && view !== 'in-the-hand')
    return <Nothing>No throw has been logged yet.</Nothing>
  return <div className="min-w-0 overflow-x-auto">{SHOWN[view](source)}</div>
}
