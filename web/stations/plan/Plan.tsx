import { useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { AskedColumn } from './AskedColumn.tsx'
import { OrderColumn } from './OrderColumn.tsx'
import { PlanSheet } from './PlanSheet.tsx'
import { usePlanning } from './usePlanning.ts'
import { WorthColumn } from './WorthColumn.tsx'

export default function PlanStation({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  if (error && !view) return <TroubleNote error={error} />
  if (!view) return <WaitingNote what="the plan" />
  return <Shown view={view} />
}

function Shown({ view }: { view: TrialView }) {
  const planning = usePlanning(view)
  const units = useUnits()
  const { trial, plan, nameOf, codeOf, done } = planning
  return (
    <>
      <div className="grid gap-3 p-3 md:p-4 lg:grid-cols-[17rem_minmax(0,1fr)] xl:grid-cols-[17rem_minmax(0,1fr)_21rem] print:hidden">
        <AskedColumn planning={planning} />
        <OrderColumn planning={planning} />
        <WorthColumn planning={planning} />
      </div>
      <PlanSheet
        {...{ trial, plan, nameOf, codeOf, done }}
        lengthUnit={units.length.unit}
        speedUnit={units.speed.unit}
      />
    </>
  )
}
