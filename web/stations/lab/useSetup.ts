import { useCallback, useEffect, useState } from 'react'
import { useLocation, useSearchParams } from 'react-router'
import { asKept, FIRST_SETUP, linkOf, setupOf } from '../../../contract/lab.ts'
import type { LabSetup } from '../../../contract/lab.ts'

/** The address follows what is set once the hand rests, ms. */
const RESTS_MS = 400

/** What is set, kept in the address. */
export function useSetup() {
  const [search, setSearch] = useSearchParams()
  const { pathname } = useLocation()
  const [opened] = useState(() => setupOf(search.toString()))
  const [setup, setSetup] = useState<LabSetup>(opened ?? FIRST_SETUP)
  useEffect(() => {
    if (setup === (opened ?? FIRST_SETUP)) return
    const rests = setTimeout(() => {
      // while the next screen is on its way this one still stands, but the address is the other's already
      if (window.location.pathname === pathname) setSearch(linkOf(setup), { replace: true })
    }, RESTS_MS)
    return () => clearTimeout(rests)
  }, [setup, opened, pathname, setSearch])
  const change = useCallback(
    (part: Partial<LabSetup> | ((now: LabSetup) => Partial<LabSetup>)) =>
      setSetup((now) => ({ ...now, ...asKept(typeof part === 'function' ? part(now) : part) })),
    [],
  )
  return { setup, change, unreadable: opened === null }
}
