import { Dialog, DialogBackdrop, DialogPanel } from '@headlessui/react'
import { Command } from 'cmdk'
import { useNavigate } from 'react-router'
import { useShelf, useTrials } from '../data/hooks.ts'
import { usePreferences } from '../data/preferences.tsx'
import { Dialog as Sheet } from '../parts/Dialog.tsx'
import { THEMES } from '../../contract/preferences.ts'

const KEYS: readonly (readonly [string, string])[] = [
  ['Ctrl K', 'go anywhere: stations, trials, discs'],
  ['?', 'this list'],
  ['← → ↑ ↓', 'Field: move the landing by a metre; with Shift by five'],
  ['Enter', 'Field: keep the throw'],
  ['U', 'Field: take back the last throw'],
  ['[  ]', 'Field: less or more hyzer out of the hand'],
  ['C', 'Field: counts or not'],
  ['E  H  O', 'Field: nose, height and how it came out, option by option'],
  ['1 … 5', 'Field: what it did in the air'],
  ['F', 'Field: a recorded path from a file'],
  ['A', 'Field: the last throw again'],
  ['N', 'Field: this throw later, the one after it now'],
  ['P', 'Field: pause, and go on'],
  ['R', 'Field: have the range finder measure the landing'],
  ['S', 'Field: stopwatch, from release to first contact'],
  ['T', 'Field: the next thrower'],
  ['V', 'Field: let the simulated volunteer throw it'],
  ['X', 'Field: stretch the side, or true scale'],
  ['Z', 'Field: look closer, or at the whole field'],
  ['W', 'Field: turn round, the wind flips'],
  ['M', 'Field: the most telling throw next, or the one thrown least'],
]

interface CommandListProps {
  readonly shown: 'commands' | 'keys'
  readonly onClose: () => void
}

/** Ctrl K goes anywhere; ? lists the keys. */
export default function CommandList({ shown, onClose }: CommandListProps) {
  if (shown === 'keys')
    return (
      <Sheet open onClose={onClose} title="Keys">
        <dl className="grid grid-cols-[8rem_1fr] gap-x-4 gap-y-2">
          {KEYS.map(([key, does]) => (
            <div key={key} className="contents">
              <dt className="figure">{key}</dt>
              <dd>{does}</dd>
            </div>
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
  return (
    <Command label="Go to" loop>
      <Command.Input
        autoFocus
        placeholder="Go to a station, a trial, a disc …"
        className="w-full border-b border-rule bg-card px-4 py-3 text-lead outline-none"
      />
      <Command.List className="max-h-80 overflow-y-auto p-2">
        <Command.Empty className="px-3 py-4 text-quiet">Nothing of that name.</Command.Empty>
        {item('Bench', () => go('/'))}
        {item('Shelf', () => go('/shelf'))}
        {item('Settings', () => go('/settings'))}
        {trials?.flatMap(({ trial }) => [
          item(`Field: ${trial.name}`, () => go(`/trials/${trial.id}/field`)),
          item(`Readout: ${trial.name}`, () => go(`/trials/${trial.id}/readout`)),
        ])}
        {view?.discs.map((d) =>
          item(`Disc ${d.disc.code}: ${d.mold.name}, ${d.plastic.name}`, () => go(`/shelf/${d.disc.id}`)),
        )}
        {THEMES.map((theme) => item(`Theme: ${theme}`, () => change({ theme })))}
        {item('Units: metric', () => change({ units: 'metric' }))}
        {item('Units: imperial', () => change({ units: 'imperial' }))}
      </Command.List>
    </Command>
  )
}
