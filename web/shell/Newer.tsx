import { useWaiting } from '../data/outbox.ts'
import { update, useNewer } from '../data/update.ts'
import { Button } from '../parts/Button.tsx'

/** Says that a newer app is here, and when this page becomes it. */
export function Newer() {
  const newer = useNewer()
  const waiting = useWaiting().length
  if (!newer) return null
  return (
    <div
      role="status"
      className="mx-auto mt-2 flex max-w-[1568px] flex-wrap items-center gap-x-3 gap-y-1 rounded-xl border border-edge bg-card px-4 py-2 max-md:mx-3"
    >
      <span className="min-w-40 flex-1">
        <strong>A newer Veer Line is here.</strong>{' '}
        {waiting > 0
          ? `This page becomes it once the ${waiting} waiting here ${waiting === 1 ? 'is' : 'are'} sent.`
          : 'This page becomes it when you go to another screen.'}
      </span>
      <Button onClick={update}>Update now</Button>
    </div>
  )
}
