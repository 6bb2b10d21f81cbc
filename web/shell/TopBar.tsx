import clsx from 'clsx'
import { CloudUpload, Settings } from 'lucide-react'
import { lazy, Suspense, useEffect, useState } from 'react'
import type { ReactNode } from 'react'
import { Link, NavLink, useLocation, useMatch } from 'react-router'
import { useTrials } from '../data/hooks.ts'
import { useRefused, useWaiting } from '../data/outbox.ts'
import { lastTrial } from './lastTrial.ts'

const WaitingList = lazy(() => import('./WaitingList.tsx'))

const STATIONS = [
  { to: '/', name: 'Bench' },
  { to: '/shelf', name: 'Shelf' },
  { to: '/plan', name: 'Plan' },
  { to: '/field', name: 'Field' },
  { to: '/readout', name: 'Readout' },
] as const

/** Stations that show one trial. */
const OF_TRIAL = new Set<string>(['/plan', '/field', '/readout'])

function Mark() {
  return (
    <svg width="38" height="20" viewBox="0 0 38 20" aria-hidden>
      <path d="M2 11h34" stroke="var(--on-spruce-quiet)" strokeWidth="1.5" strokeDasharray="1.5 3" />
      <path
        d="M2 11c9 0 11 6 17 4s6-8 16-12"
        fill="none"
        stroke="var(--color-accent-dark)"
        strokeWidth="2.6"
        strokeLinecap="round"
      />
    </svg>
  )
}

export function TopBar() {
  const { pathname } = useLocation()
  const match = useMatch('/trials/:trialId/*')
  const { trials } = useTrials()
  const open = match?.params.trialId
  useEffect(() => {
    if (open) lastTrial.set(open)
  }, [open])
  const trialId = open ?? lastTrial.get()
  const trial = trials?.find((t) => t.trial.id === trialId)?.trial
  const isAt = (name: string) =>
    name === 'Bench'
      ? pathname === '/'
      : name === 'Shelf'
        ? pathname.startsWith('/shelf')
        : pathname.endsWith(`/${name.toLowerCase()}`) ||
          (name === 'Readout' && pathname.endsWith('/import')) ||
          (name === 'Field' && pathname.endsWith('/short')) ||
          (name === 'Plan' && pathname.endsWith('/sheet'))
  return (
    <header className="sticky top-0 z-30 bg-spruce print:hidden text-on-spruce">
      <div className="mx-auto flex h-13 max-w-[1600px] items-stretch gap-1 px-2 md:px-5">
        <Link to="/" className="mr-3 flex items-center gap-2.5 max-md:hidden">
          <Mark />
          <span className="font-head text-lead font-bold">veer line</span>
        </Link>
        <nav aria-label="Stations" className="flex min-w-0 items-stretch">
          {STATIONS.map(({ to, name }) => (
            <NavLink
              key={to}
              to={trialId && OF_TRIAL.has(to) ? `/trials/${trialId}${to}` : to}
              aria-current={isAt(name) ? 'page' : undefined}
              className={clsx(
                'flex items-center justify-center border-b-3 px-1.5 max-md:min-w-11 text-[0.875rem] sm:px-2.5 sm:text-body md:px-3.5',
                isAt(name)
                  ? 'border-accent-dark font-semibold text-on-spruce'
                  : 'border-transparent text-on-spruce-quiet hover:text-on-spruce',
              )}
            >
              {name}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-2">
          <WaitingBadge />
          {trial && (
            <Link
              to={`/trials/${trial.id}/readout`}
              className="max-w-72 truncate rounded-full border border-on-spruce-quiet/40 px-3 py-1 text-note font-semibold max-lg:hidden"
            >
              {trial.name}
            </Link>
          )}
          <Link
            to="/settings"
            aria-label="Settings"
            className="grid size-11 place-items-center rounded-lg hover:bg-white/10"
          >
            <Settings size={19} aria-hidden />
          </Link>
        </div>
      </div>
    </header>
  )
}

/** What waits on this device, and what the server would not take. */
function WaitingBadge() {
  const waiting = useWaiting()
  const refused = useRefused()
  const [shown, setShown] = useState(false)
  const count = waiting.length
  if (refused.length === 0 && count === 0) return null
  return (
    <>
      <Delayed now={refused.length > 0}>
        <button
          type="button"
          onClick={() => setShown(true)}
          aria-label={refused.length > 0 ? `${refused.length} not taken` : `${count} waiting`}
          className="flex items-center gap-1.5 rounded-full bg-accent-dark px-3 py-1 text-note font-bold text-[#1d2a2c]"
        >
          <CloudUpload size={16} aria-hidden />
          {refused.length > 0 ? refused.length : count}
          <span className="max-sm:hidden">{refused.length > 0 ? 'not taken' : 'waiting'}</span>
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
