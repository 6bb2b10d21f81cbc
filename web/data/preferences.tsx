import { at } from '../../contract/api.ts'
import { useRead } from './hooks.ts'
import { createContext, useCallback, useContext, useEffect, useMemo, useState } from 'react'
import type { ReactNode } from 'react'
import { v7 as newId } from 'uuid'
import type { Preferences } from '../../contract/preferences.ts'
import { useWaiting } from './outbox.ts'
import { useChanges } from './useChanges.ts'
import { rowOver } from './overlay.ts'
import { unitsOf } from './units.ts'
import type { Units } from './units.ts'

const REMEMBERED = 'veer-line.preferences'

/** What this user liked last, at hand before the server answers. */
function remembered(): Preferences {
  try {
    const kept = JSON.parse(localStorage.getItem(REMEMBERED) ?? 'null') as Preferences | null
    if (kept?.id) return kept
  } catch {
    // unreadable: start over
  }
  const first: Preferences = { id: newId(), units: 'metric', theme: 'day' }
  localStorage.setItem(REMEMBERED, JSON.stringify(first))
  return first
}

interface PreferencesValue {
  readonly preferences: Preferences
  readonly units: Units
  readonly change: (change: Partial<Omit<Preferences, 'id'>>) => void
}
const Context = createContext<PreferencesValue | undefined>(undefined)
/** Apart from the rest: what shows figures is drawn anew only when their units change. */
const UnitsContext = createContext<Units | undefined>(undefined)

export function PreferencesProvider({ children }: { children: ReactNode }) {
  const [first] = useState(remembered)
  const { data } = useRead(at('GET /api/preferences/:id', { id: first.id }), {
    fallbackData: first,
    revalidateOnFocus: false,
  })
  const waiting = useWaiting()
  const preferences = rowOver('preferences', first.id, data ?? first, waiting)!
  useEffect(() => {
    document.documentElement.dataset['theme'] = preferences.theme
    localStorage.setItem(REMEMBERED, JSON.stringify(preferences))
  }, [preferences])
  const rows = useMemo(() => [preferences], [preferences])
  const changeRow = useChanges('preferences', rows)
  const change = useCallback(
    (c: Partial<Omit<Preferences, 'id'>>) =>
      changeRow({ ...preferences, ...c }, Object.keys(c) as (keyof Preferences)[]),
    [changeRow, preferences],
  )
  const units = useMemo(() => unitsOf(preferences.units), [preferences.units])
  const value = useMemo(() => ({ preferences, units, change }), [preferences, units, change])
  return (
    <Context value={value}>
      <UnitsContext value={units}>{children}</UnitsContext>
    </Context>
  )
}

/** What is in it is in these units, whatever whoever looks at it likes. */
export function UnitsIn({ kind, children }: { kind: Preferences['units']; children: ReactNode }) {
  const units = useMemo(() => unitsOf(kind), [kind])
  return <UnitsContext value={units}>{children}</UnitsContext>
}

export function usePreferences(): PreferencesValue {
  const value = useContext(Context)
  if (!value) throw new Error('usePreferences outside its provider')
  return value
}
export function useUnits(): Units {
  const units = useContext(UnitsContext)
  if (!units) throw new Error('useUnits outside its provider')
  return units
}
