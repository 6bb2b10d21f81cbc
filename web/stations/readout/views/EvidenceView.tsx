import { useState } from 'react'
import { EvidenceCard } from '../Evidence.tsx'
import { Flights } from '../Flights.tsx'
import type { ViewProps } from './viewProps.ts'

/** Published numbers against the throws, and the flights; a disc pointed at in one stands out in the other. */
export function EvidenceView(props: ViewProps) {
  const [picked, setPicked] = useState<string>()
  return (
    <div className="grid gap-3">
      <EvidenceCard {...props} picked={picked} onPick={setPicked} />
      <Flights {...props} picked={picked} />
    </div>
  )
}
