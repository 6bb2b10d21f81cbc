import { useEffect } from 'react'

/** Keeps the screen on while somebody logs throws, not while they pause; browsers that cannot leave it be. */
export function useWakeLock(on: boolean): void {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let gone = false
    const hold = async () => {
      try {
        const held = await navigator.wakeLock.request('screen')
        if (gone) await held.release()
        else lock = held
      } catch {
        // a low battery or a hidden page: it is asked again when the page is seen
      }
    }
    const seen = () => document.visibilityState === 'visible' && void hold()
    void hold()
    document.addEventListener('visibilitychange', seen)
    return () => {
      gone = true
      document.removeEventListener('visibilitychange', seen)
      void lock?.release()
    }
  }, [on])
}
