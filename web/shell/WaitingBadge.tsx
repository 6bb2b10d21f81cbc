import clsx from 'clsx'
import { CloudUpload } from 'lucide-react'
import { lazy, Suspense, useEffect, useState } from 'react'
import type { ReactNode } from 'react'
import { useRefused, useWaiting } from '../data/outbox.ts'

const WaitingList = lazy(() => import('./WaitingList.tsx'))

/** What waits on this device, and what the server would not take. */
export function WaitingBadge({ slot = false }: { slot?: boolean }) {
  const waiting = useWaiting()
  const refused = useRefused()
  const [shown, setShown] = useState(false)
  const count = refused.length > 0 ? refused.length : waiting.length
  if (count === 0) return null
  const what = refused.length > 0 ? 'not taken' : 'waiting'
  return (
    <>
      <Delayed now={refused.length > 0}>
        <button
          type="button"
          onClick={() => setShown(true)}
          aria-label={`${count} ${what}`}
          className={clsx(
            'bg-accent-dark font-bold text-[#1d2a2c]',
            slot
              ? 'flex w-16 flex-col items-center justify-center text-[0.75rem] leading-tight'
              : 'flex items-center gap-1.5 rounded-full px-3 py-1 text-note',
          )}
        >
          <span className="flex items-center gap-1">
            <CloudUpload size={16} aria-hidden /> {count}
          </span>
          {what}
        </button>
      </Delayed>
      {shown && (
        <Suspense>
          <WaitingList onClose={() => setShown(false)} />
        </Suspense>
      )}
    </>
  )
}

/** A write on its way for a moment is nobody's worry: shows its children after a while. */
function Delayed({ now, children }: { now: boolean; children: ReactNode }) {
  const [due, setDue] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setDue(true), 900)
    return () => clearTimeout(timer)
  }, [])
  return now || due ? children : null
}
