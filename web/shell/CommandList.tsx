import { Dialog, DialogBackdrop, DialogPanel } from '@headlessui/react'
import { Command } from 'cmdk'
import { Fragment, useContext } from 'react'
import { useNavigate } from 'react-router'
import { THEMES } from '../../contract/preferences.ts'
import { useShelf, useTrials } from '../data/hooks.ts'
import { usePreferences } from '../data/preferences.tsx'
import type { BoundKey } from '../parts/keys.ts'
import { Dialog as Sheet } from '../parts/Dialog.tsx'
import { addressIn, Stations } from '../parts/StationLink.tsx'
import { EVERYWHERE } from './keys.ts'

interface CommandListProps {
  readonly shown: 'commands' | 'keys'
  readonly onClose: () => void
}

/** Ctrl K goes anywhere; ? lists the keys. */
export default function CommandList({ shown, onClose }: CommandListProps) {
  const doors = useContext(Stations)
  if (shown === 'keys')
    return (
      <Sheet open onClose={onClose} title="Keys">
        <dl className="grid grid-cols-[8rem_1fr] gap-x-4 gap-y-2">
          {[
            { name: 'Everywhere', keys: Object.values<BoundKey>(EVERYWHERE) },
            ...doors.filter((d) => d.keys.length > 0),
          ].map(({ name, keys }) => (
            <Fragment key={name}>
              <dt className="col-span-2 mt-2 font-semibold">{name}</dt>
              {keys.map(({ shown: key, does }) => (
                <div key={does} className="contents">
                  <dt className="figure">{key}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </Fragment>
          ))}
        </dl>
      </Sheet>
    )
  return (
    <Dialog open onClose={onClose} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-black/45" />
      <div className="fixed inset-0 p-4 pt-[12vh]">
        <DialogPanel className="mx-auto max-w-lg overflow-hidden rounded-xl border border-rule bg-card shadow-xl">
          <Commands close={onClose} />
        </DialogPanel>
      </div>
    </Dialog>
  )
}

function Commands({ close }: { close: () => void }) {
  const go = useNavigate()
  const doors = useContext(Stations)
  const { trials } = useTrials()
  const { view } = useShelf()
  const { change } = usePreferences()
  const item = (value: string, run: () => void) => (
    <Command.Item
      key={value}
      value={value}
      onSelect={() => {
        close()
        run()
      }}
      className="cursor-pointer rounded-lg px-3 py-2 data-[selected=true]:bg-tint"
    >
      {value}
    </Command.Item>
  )
  const to = (value: string, address: string | undefined) =>
    address === undefined ? null : item(value, () => void go(address))
  return (
    <Command label="Go to" loop>
      <Command.Input
        autoFocus
        placeholder="Go to a station, a trial, a disc …"
        className="w-full border-b border-rule bg-card px-4 py-3 text-lead outline-none"
      />
      <Command.List className="max-h-80 overflow-y-auto p-2">
        <Command.Empty className="px-3 py-4 text-quiet">Nothing of that name.</Command.Empty>
        {doors.filter((d) => d.group !== 'trial').map((d) => to(d.name, addressIn(doors, d.id)))}
        {trials?.flatMap(({ trial }) =>
          doors
            .filter((d) => d.group === 'trial')
            .map((d) => to(`${d.name}: ${trial.name}`, addressIn(doors, d.id, { trialId: trial.id }))),
        )}
        {view?.discs.map((d) =>
          to(
            `Disc ${d.disc.code}: ${d.mold.name}, ${d.plastic.name}`,
            addressIn(doors, 'shelf/disc', { discId: d.disc.id }),
          ),
        )}
        {THEMES.map((theme) => item(`Theme: ${theme}`, () => change({ theme })))}
        {item('Units: metric', () => change({ units: 'metric' }))}
        {item('Units: imperial', () => change({ units: 'imperial' }))}
      </Command.List>
    </Command>
  )
}
