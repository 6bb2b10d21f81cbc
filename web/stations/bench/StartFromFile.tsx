import { useState } from 'react'
import { useNavigate } from 'react-router'
import { v7 as newId } from 'uuid'
import { questionOf } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
import { QuestionInput } from '../../parts/QuestionInput.tsx'
import { buttonLook } from '../../parts/Button.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { StationLink, useAddresses } from '../../parts/StationLink.tsx'
import { ThrowsFile } from '../../parts/ThrowsFile.tsx'
import { say } from '../../data/say.ts'

/** A file’s name as a trial is called: without its ending, its dashes and its capitals. */
const calledAfter = (fileName: string): string => {
  const words = fileName
    .replace(/\.[^.]*$/, '')
    .replace(/[-_]+/g, ' ')
    .trim()
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, 120) || 'From a file'
}

/** A trial made of a file of throws: its discs, its throwers, and what they ask, in one go. */
export default function StartFromFile() {
  const go = useNavigate()
  const to = useAddresses()
  const [trialId] = useState(() => newId())
  const [name, setName] = useState('')
  const [kind, setKind] = useState<QuestionKind>('molds')
  return (
    <ThrowsFile
      trialId={trialId}
      title="Start from a file"
      query={{ name: name.trim() || 'From a file', question: name === '' ? '' : questionOf(kind).words }}
      onRead={(file, { asks }) => {
        setName(calledAfter(file))
        setKind(asks)
      }}
      asking={
        <div className="grid gap-4 sm:grid-cols-2">
          <TextInput label="Name of the trial" value={name} onChange={(e) => setName(e.target.value)} />
          <QuestionInput label="What do you want to know?" value={kind} onChange={setKind} />
        </div>
      }
      onStored={(file, { throws }) => {
        say(`${throws} throws of ${file} are in ${name}.`)
        void go(to('readout', { trialId })!)
      }}
      cancel={
        <StationLink at="bench" className={buttonLook('quiet')}>
          Cancel
        </StationLink>
      }
    >
      A CSV file with one throw a row: thrower, hand, disc and its numbers, angle, where it landed. Its discs
      and throwers are added, the question is guessed from what the discs differ in, and you see it all before
      anything is stored.
    </ThrowsFile>
  )
}
