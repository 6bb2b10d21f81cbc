import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import clsx from 'clsx'
import { ChevronUp, Ellipsis, FlaskConical, Warehouse } from 'lucide-react'
import { useContext, useEffect } from 'react'
import { Link, useLocation, useMatch, matchPath } from 'react-router'
import type { TrialHead } from '../../contract/trials.ts'
import { useTrials } from '../data/hooks.ts'
import type { Door } from '../parts/door.ts'
import { addressIn, Stations } from '../parts/StationLink.tsx'
import { lastTrial } from './lastTrial.ts'
import { Mark } from './Mark.tsx'
import { WaitingBadge } from './WaitingBadge.tsx'

/** The trial that is open: the one in the address, else the one last looked at here. */
function useOpenTrial(): TrialHead | undefined {
  const match = useMatch('/trials/:trialId/*')
  const { trials = [], putAway = [] } = useTrials()
  const open = match?.params.trialId
  useEffect(() => {
    if (open) lastTrial.set(open)
  }, [open])
  const id = open ?? lastTrial.get()
  return [...trials, ...putAway].find((t) => t.trial.id === id)?.trial
}

/** A way to a station: where it leads, and whether one is there. */
interface Way {
  readonly door: Door
  readonly address: string
  readonly here: boolean
}

/** Whether an address is that of a screen of a station, parameters and all. */
function isScreenOf(door: Door, pathname: string): boolean {
  const base = door.group === 'trial' ? '/trials/:trialId/' : '/'
  return Object.values(door.screens).some((screen) => matchPath(`${base}${screen.path}`, pathname) !== null)
}

function useWays(trial: TrialHead | undefined) {
  const doors = useContext(Stations)
  const { pathname } = useLocation()
  const ways = (group: Door['group']): Way[] =>
    doors
      .filter((d) => d.group === group)
      .flatMap((door) => {
        if (group === 'trial' && !trial) return []
        const address = addressIn(doors, door.id, trial && { trialId: trial.id })
        return address === undefined ? [] : [{ door, address, here: isScreenOf(door, pathname) }]
      })
  return { shed: ways('shed'), ofTrial: ways('trial'), apart: ways('apart') }
}

/** The ways through the app: one bar at the top of a desk, one at the bottom of a phone, where the thumb is. */
export function Bars() {
  const trial = useOpenTrial()
  const { shed, ofTrial, apart } = useWays(trial)
  return (
    <>
      <header className="sticky top-0 z-30 bg-spruce text-on-spruce max-md:hidden print:hidden">
        <div className="mx-auto flex h-13 max-w-[1600px] items-stretch gap-1 px-3 xl:px-5">
          <Link to="/" className="hit mr-2 flex items-center gap-2.5">
            <Mark />
            <span className="font-head text-lead font-bold max-lg:sr-only">veer line</span>
          </Link>
          <nav aria-label="Shed" className="flex items-stretch">
            {shed.map((way) => (
              <DeskWay key={way.door.id} way={way} />
            ))}
          </nav>
          {trial && ofTrial.length > 0 && (
            <nav
              aria-label={`Trial: ${trial.name}`}
              className="ml-2 flex min-w-0 items-stretch border-l border-on-spruce-quiet/35 pl-3"
            >
              <span
                className="flex min-w-0 items-center pr-1.5 text-note font-semibold text-on-spruce-quiet max-lg:hidden"
                title={trial.name}
              >
                <span className="truncate">{trial.name}</span>
              </span>
              {ofTrial.map((way) => (
                <DeskWay key={way.door.id} way={way} />
              ))}
            </nav>
          )}
          <div className="ml-auto flex items-center gap-2">
            <WaitingBadge />
            {apart.map(({ door, address, here }) => (
              <Link
                key={door.id}
                to={address}
                aria-label={door.name}
                aria-current={here ? 'page' : undefined}
                className={clsx(
                  'grid size-11 place-items-center rounded-lg hover:bg-white/10',
                  here && 'bg-white/15',
                )}
              >
                <door.icon size={19} aria-hidden />
              </Link>
            ))}
          </div>
        </div>
      </header>
      <PhoneBar {...{ trial, shed, ofTrial, apart }} />
    </>
  )
}

function DeskWay({ way: { door, address, here } }: { way: Way }) {
  return (
    <Link
      to={address}
      aria-current={here ? 'page' : undefined}
      className={clsx(
        'flex shrink-0 items-center justify-center border-b-3 px-2.5 xl:px-3',
        here
          ? 'border-accent-dark font-semibold text-on-spruce'
          : 'border-transparent text-on-spruce-quiet hover:text-on-spruce',
      )}
    >
      {door.name}
    </Link>
  )
}

interface PhoneBarProps {
  readonly trial: TrialHead | undefined
  readonly shed: readonly Way[]
  readonly ofTrial: readonly Way[]
  readonly apart: readonly Way[]
}

const SLOT =
  'flex min-w-0 flex-1 flex-col items-center justify-center gap-0.5 border-t-3 px-0.5 text-[0.75rem] leading-tight'

/** Stations of where one is stand in the bar; the others are one tap further, in the sheet that the first slot opens. */
function PhoneBar({ trial, shed, ofTrial, apart }: PhoneBarProps) {
  const inTrial = ofTrial.some((w) => w.here)
  const [near, far] = inTrial ? [ofTrial, shed] : [shed, ofTrial]
  const MenuIcon = inTrial ? Warehouse : trial ? FlaskConical : Ellipsis
  const menu = [...far, ...apart]
  return (
    <nav
      aria-label="Stations"
      className="fixed inset-x-0 bottom-0 z-30 flex h-[calc(3.75rem+env(safe-area-inset-bottom))] items-stretch bg-spruce pb-[env(safe-area-inset-bottom)] text-on-spruce md:hidden print:hidden"
    >
      <Menu>
        <MenuButton
          aria-label={inTrial ? 'Shed and settings' : trial ? 'Trial and settings' : 'More: settings'}
          className={clsx(SLOT, 'max-w-20 border-transparent text-on-spruce-quiet data-open:text-on-spruce')}
        >
          <span className="flex items-center">
            <MenuIcon size={20} aria-hidden />
            <ChevronUp size={14} aria-hidden />
          </span>
          {inTrial ? 'Shed' : trial ? 'Trial' : 'More'}
        </MenuButton>
        <MenuItems
          anchor={{ to: 'top start', gap: 8, padding: 8 }}
          className="z-40 w-64 rounded-xl border border-rule bg-card p-1.5 text-ink shadow-xl outline-none"
        >
          {!inTrial && trial && far.length > 0 && (
            <p className="px-3 pt-1.5 pb-1 text-note font-semibold text-quiet">{trial.name}</p>
          )}
          {menu.map(({ door, address, here }) => (
            <MenuItem key={door.id}>
              <Link
                to={address}
                aria-current={here ? 'page' : undefined}
                className="flex min-h-12 items-center gap-3 rounded-lg px-3 data-focus:bg-tint"
              >
                <door.icon size={20} aria-hidden className="text-quiet" />
                <span className={here ? 'font-semibold' : ''}>{door.name}</span>
              </Link>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
      {near.map(({ door, address, here }) => (
        <Link
          key={door.id}
          to={address}
          aria-current={here ? 'page' : undefined}
          className={clsx(
            SLOT,
            here
              ? 'border-accent-dark font-semibold text-on-spruce'
              : 'border-transparent text-on-spruce-quiet',
          )}
        >
          <door.icon size={20} aria-hidden />
          <span className="max-w-full truncate">{door.name}</span>
        </Link>
      ))}
      <WaitingBadge slot />
    </nav>
  )
}
