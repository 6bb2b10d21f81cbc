import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { Crosshair } from 'lucide-react'
import { Link } from 'react-router'
import { intendedLink } from '../../../contract/lab.ts'
import type { Intended } from '../../../contract/lab.ts'
import { useTrials } from '../../data/hooks.ts'
import { buttonLook } from '../../parts/Button.tsx'
import { useAddresses } from '../../parts/StationLink.tsx'

/** Trials that are offered, the latest first. */
const OFFERED = 6

/** Sends a throw to the field, as the next one of a trial that has its disc. */
export function ThrowIt({ intended }: { intended: Intended | undefined }) {
  const to = useAddresses()
  const { trials = [] } = useTrials()
  const trialsOf = trials
    .filter(({ trial }) => intended && trial.discIds.includes(intended.discId))
    .sort((a, b) => (b.lastThrownAt ?? '').localeCompare(a.lastThrownAt ?? ''))
    .slice(0, OFFERED)
  if (!intended || to('field', { trialId: 'any' }) === undefined) return null
  return (
    <Menu>
      <MenuButton className={buttonLook()}>
        <Crosshair size={18} aria-hidden /> Throw it in the field
      </MenuButton>
      <MenuItems
        anchor={{ to: 'bottom end', gap: 4 }}
        className="z-40 w-72 rounded-lg border border-rule bg-card p-1 shadow-lg outline-none"
      >
        {trialsOf.length === 0 && (
          <p className="px-2.5 py-2 text-quiet">
            No trial has this disc: start one from its page on the shelf.
          </p>
        )}
        {trialsOf.map(({ trial }) => (
          <MenuItem key={trial.id}>
            <Link
              to={`${to('field', { trialId: trial.id })!}?${intendedLink(intended)}`}
              className="flex min-h-10 items-center rounded-md px-2.5 data-focus:bg-tint max-md:min-h-11"
            >
              Next throw of {trial.name}
            </Link>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
