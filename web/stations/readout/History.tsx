import { at } from '../../../contract/api.ts'
import { format } from 'date-fns'
import { OBSERVED_KEYS, rowOf } from '../../../core/throw/observed.ts'
import type { ObservedKey } from '../../../core/throw/observed.ts'
import type { Throw } from '../../../contract/trials.ts'
import { useRead } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import type { Units } from '../../data/units.ts'
import { TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { Dialog } from '../../parts/Dialog.tsx'

/** A value as a person reads it, in their units. */
function shown(key: ObservedKey, value: Throw[ObservedKey], units: Units): string {
  if (value === null) return 'not seen'
  const row = rowOf(key)
  if (row.kind !== 'figure' || typeof value !== 'number')
    return value === true ? 'yes' : value === false ? 'no' : String(value)
  if (row.unit === 'm') return units.length.show(value)
  if (row.unit === 'm/s') return units.speed.show(value)
  return `${value}${row.unit === '°' ? '°' : row.unit === '' ? '' : ` ${row.unit}`}`
}

/** What one way of writing a throw changed of the one before it. */
function changesOf(now: Throw, before: Throw, units: Units): string[] {
  const changed = OBSERVED_KEYS.filter((key) => now[key] !== before[key]).map(
    (key) => `${rowOf(key).words}: ${shown(key, now[key], units)}, was ${shown(key, before[key], units)}`,
  )
  if (now.discId !== before.discId) changed.push('another disc')
  if (now.throwerId !== before.throwerId) changed.push('another thrower')
  if (JSON.stringify(now.notes) !== JSON.stringify(before.notes)) changed.push('its notes')
  if (JSON.stringify(now.path) !== JSON.stringify(before.path)) changed.push('its recorded path')
  if (now.takenBackAt !== before.takenBackAt)
    changed.push(now.takenBackAt === null ? 'restored' : 'taken back')
  return changed
}

/** Who wrote a throw, when, with which device, and what they changed of it. */
export function History({
  thrown,
  number,
  onClose,
}: {
  thrown: Throw
  number: number | undefined
  onClose: () => void
}) {
  const units = useUnits()
  const { data, error } = useRead(at('GET /api/throws/:id/history', { id: thrown.id }))
  return (
    <Dialog
      open
      onClose={onClose}
      title={number === undefined ? 'A throw that was taken back' : `Throw ${number}, as it was written`}
    >
      {error && <TroubleNote error={error} />}
      {!data && !error && <WaitingNote what="its history" />}
      <ol>
        {data?.map((version, i) => {
          const before = data[i + 1]
          const by =
            version.person === null
              ? 'From a file or the sample data'
              : [version.person, version.device].filter(Boolean).join(', ')
          const changes = before ? changesOf(version.throw, before.throw, units) : []
          return (
            <li key={version.at} className="border-t border-rule py-2 first:border-t-0">
              <p className="font-medium">{by}</p>
              <p className="text-note text-quiet">
                {before ? 'changed' : version.person === null ? 'stored' : 'logged'}{' '}
                {format(new Date(version.at), 'd MMMM yyyy, HH:mm:ss')}
              </p>
              {changes.length > 0 && (
                <ul className="mt-1 list-disc pl-5">
                  {changes.map((c) => (
                    <li key={c}>{c}</li>
                  ))}
                </ul>
              )}
            </li>
          )
        })}
      </ol>
    </Dialog>
  )
}
