import { lazy, Suspense, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'

const CommandList = lazy(() => import('./CommandList.tsx'))

/** The keys that work everywhere; what they open is loaded when first asked for. */
export function Shortcuts() {
  const [shown, setShown] = useState<'commands' | 'keys'>()
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
