import { lazy, Suspense, useEffect, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'

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
  useHotkeys('mod+k', () => toggle('commands'), { preventDefault: true, enableOnFormTags: true })
  useHotkeys('?', () => toggle('keys'), { useKey: true })
  return (
    shown && (
      <Suspense>
        <CommandList shown={shown} onClose={() => setShown(undefined)} />
      </Suspense>
    )
  )
}
