import { useMe } from '../../data/crew.ts'
import { Devices } from './crew/Devices.tsx'
import { LetIn } from './crew/LetIn.tsx'
import { Myself } from './crew/Myself.tsx'
import { People } from './crew/People.tsx'
import { Sections } from './Sections.tsx'

/** Who comes in, with which devices, and what they may do. */
export default function Crew() {
  const me = useMe()
  if (!me?.person) return null
  const isOwner = me.person.role === 'owner'
  return (
    <Sections here="crew">
      {isOwner && <LetIn />}
      <div className="grid items-start gap-3 md:grid-cols-2">
        <People me={me.person} />
        <div className="space-y-3">
          <Devices ownKeyId={me.keyId} everybodys={isOwner} />
          <Myself me={me.person} signedIn={me.keyId !== null} />
        </div>
      </div>
    </Sections>
  )
}
