import { lazy, Suspense, useEffect, useState } from 'react'
import { useKey } from '../parts/keys.ts'
import { EVERYWHERE } from './keys.ts'

const load = () => import('./CommandList.tsx')
const CommandList = lazy(load)
/** Once the first screen has settled the list is fetched, so that fast typists find it there, ms. */
const SETTLED_AFTER = 1500

/** The keys that work everywhere; what they open is loaded after the first screen. */
export function Shortcuts() {
  const [shown, setShown] = useState<'commands' | 'keys'>()
  useEffect(() => {
    const timer = setTimeout(() => void load(), SETTLED_AFTER)
    return () => clearTimeout(timer)
  }, [])
  const toggle = (what: 'commands' | 'keys') => setShown((s) => (s === what ? undefined : what))
  useKey(EVERYWHERE.commands, () => toggle('commands'), { preventDefault: true, enableOnFormTags: true })
  useKey(EVERYWHERE.keys, () => toggle('keys'))
  return (
    shown && (
      <Suspense>
        <CommandList shown={shown} onClose={() => setShown(undefined)} />
      </Suspense>
    )
  )
}
