import { useNavigate } from 'react-router'
import { useTrial } from '../../data/hooks.ts'
import { buttonLook } from '../../parts/Button.tsx'
import { TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { StationLink, useAddresses } from '../../parts/StationLink.tsx'
import { ThrowsFile } from '../../parts/ThrowsFile.tsx'
import { say } from '../../data/say.ts'

/** Imports a file of throws into a trial. */
export default function Import({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const go = useNavigate()
  const to = useAddresses()
  if (error && !view) return <TroubleNote error={error} />
  if (!view) return <WaitingNote what="the trial" />
  const { name } = view.trial
  return (
    <ThrowsFile
      trialId={trialId}
      title={`Import throws into ${name}`}
      onStored={(file, { throws }) => {
        say(`${throws} throws of ${file} are in ${name}.`)
        void go(to('readout', { trialId })!)
      }}
      cancel={
        <StationLink at="readout" params={{ trialId }} className={buttonLook('quiet')}>
          Cancel
        </StationLink>
      }
    >
      A CSV file with one throw a row, such as the export writes. You see what it holds before anything is
      stored.
    </ThrowsFile>
  )
}
