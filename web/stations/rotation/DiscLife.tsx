import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { EllipsisVertical } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import type { DiscEventKind } from '../../../core/rotation/life.ts'
import type { JobRow, RotationDisc } from '../../../contract/rotation.ts'
import { happened, takeBack } from '../../data/rotation.ts'
import { LifeDialog } from '../../parts/LifeDialog.tsx'
import { useAddresses } from '../../parts/StationLink.tsx'
import { say } from '../../data/say.ts'
import { bagWithout } from './shown.ts'

/** What may happen to a disc, where it is so far. */
function mayHappen({ state, spared }: RotationDisc): readonly (readonly [DiscEventKind, string])[] {
  if (state === 'lost') return [['found', 'Found again']]
  return [
    spared ? ['not-spared', 'No longer kept away'] : ['spared', 'Kept away from water and trees'],
    state === 'lent' ? ['back', 'Came back'] : ['lent', 'Lent'],
    ['lost', 'Lost'],
    ['retired', 'Retired'],
    ['sold', 'Sold'],
  ]
}

interface DiscLifeProps {
  readonly jobs: readonly JobRow[]
  readonly disc: RotationDisc
  /** Throws that tell whether it does the job of its lane. */
  readonly retest: number | null
  readonly onMove: (jobId: string | null) => void
  readonly onRetest: () => void
}

/** Has a disc carried for another job, and notes what happens to it. */
export function DiscLife({ jobs, disc, retest, onMove, onRetest }: DiscLifeProps) {
  const [noting, setNoting] = useState(false)
  const bag = useAddresses()('rotation/bag')
  const note = async (kind: DiscEventKind, words: string) => {
    const event = await happened(disc.id, kind)
    say(`${disc.code}: ${words.toLowerCase()}. Noted for today.`, {
      label: 'Undo',
      run: () => void takeBack(event),
    })
  }
  const item =
    'block w-full rounded-md px-3 py-2 text-left data-focus:bg-tint max-md:min-h-11 disabled:text-quiet'
  return (
    <>
      <Menu>
        <MenuButton
          aria-label={`What happens to ${disc.code}`}
          className="grid size-8 place-items-center rounded-md hover:bg-tint max-md:size-11"
        >
          <EllipsisVertical size={18} aria-hidden />
        </MenuButton>
        <MenuItems
          anchor="bottom end"
          className="z-30 w-64 rounded-xl border border-rule bg-card p-1.5 shadow-lg outline-none"
        >
          <p className="px-3 pt-1 text-note text-quiet">Carried for</p>
          {jobs.map((job) => (
            <MenuItem key={job.id}>
              <button
                type="button"
                className={item}
                disabled={disc.jobId === job.id}
                onClick={() => onMove(job.id)}
              >
                {job.name}
                {disc.jobId === job.id && ', now'}
              </button>
            </MenuItem>
          ))}
          <MenuItem>
            <button
              type="button"
              className={item}
              disabled={disc.jobId === null}
              onClick={() => onMove(null)}
            >
              No job{disc.jobId === null && ', now'}
            </button>
          </MenuItem>
          <MenuItem>
            <button type="button" className={`${item} mt-1 border-t border-rule`} onClick={onRetest}>
              {retest === null || retest === 0
                ? 'Plan a re-test'
                : `Plan a re-test: ${retest} throws tell whether it does it`}
            </button>
          </MenuItem>
          {bag !== undefined && disc.jobId !== null && (
            <MenuItem>
              <Link className={item} to={bagWithout(bag, disc.code)}>
                What if it were lost?
              </Link>
            </MenuItem>
          )}
          <p className="mt-1 border-t border-rule px-3 pt-2 text-note text-quiet">What happened to it</p>
          {mayHappen(disc).map(([kind, words]) => (
            <MenuItem key={kind}>
              <button type="button" className={item} onClick={() => void note(kind, words)}>
                {words}
              </button>
            </MenuItem>
          ))}
          <MenuItem>
            <button type="button" className={item} onClick={() => setNoting(true)}>
              On another day, or with a note …
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
      {noting && <LifeDialog disc={disc} jobs={jobs} onClose={() => setNoting(false)} />}
    </>
  )
}
