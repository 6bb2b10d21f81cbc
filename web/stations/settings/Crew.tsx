import { useMe } from '../../data/crew.ts'
import { Offered } from '../../parts/Offered.tsx'
import { Devices } from './crew/Devices.tsx'
import { FailedTries } from './crew/FailedTries.tsx'
import { LetIn } from './crew/LetIn.tsx'
import { MyselfCard } from './crew/Myself.tsx'
import { Open } from './crew/Open.tsx'
import { People } from './crew/People.tsx'
import { Sections } from './Sections.tsx'

/** Who comes in, with which devices, and what they may do. */
export default function Crew() {
  const me = useMe()
  if (!me?.person) return null
  const isOwner = me.person.role === 'owner'
  return (
    <Sections here="crew">
      <Offered />
      {isOwner && <LetIn />}
      <div className="grid items-start gap-3 md:grid-cols-2">
        <div className="space-y-3">
          <People me={me.person} signedIn={me.keyId !== null} />
          {isOwner && <FailedTries />}
        </div>
        <div className="space-y-3">
          <Open everybodys={isOwner} />
          <Devices ownKeyId={me.keyId} everybodys={isOwner} />
          <MyselfCard me={me.person} signedIn={me.keyId !== null} />
        </div>
      </div>
    </Sections>
  )
}
