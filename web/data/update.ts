import { useEffect, useSyncExternalStore } from 'react'
import { outbox } from './outbox.ts'

/** A newer app is looked for so often, ms. */
const LOOK_MS = 30 * 60_000
const SAID = 'veer-line.updated'

let newer = false
const listeners = new Set<() => void>()

/** Has the app open without its server, and looks for a newer one. */
export function install(): void {
  if (!('serviceWorker' in navigator)) return
  const { serviceWorker } = navigator
  // the first one that takes over is the app's own
  let first = serviceWorker.controller === null
  serviceWorker.addEventListener('controllerchange', () => {
    if (first) return void (first = false)
    newer = true
    for (const listener of listeners) listener()
  })
  void serviceWorker.register('/sw.js').then((registration) => {
    const look = () => void registration.update().catch(() => {})
    setInterval(look, LOOK_MS)
    document.addEventListener('visibilitychange', () => document.visibilityState === 'visible' && look())
  })
}

/** Whether a newer app is here, which this page is not yet. */
export const useNewer = (): boolean =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => newer,
  )

/** Brings the page up to date; what waits is kept, and would be sent by the page of today. */
export function update(): void {
  try {
    sessionStorage.setItem(SAID, '1')
  } catch {
    // then it is not said
  }
  location.reload()
}

/** Whether the page has just been brought up to date; told once. */
export function justUpdated(): boolean {
  try {
    const said = sessionStorage.getItem(SAID) !== null
    sessionStorage.removeItem(SAID)
    return said
  } catch {
    return false
  }
}

/**
 * Brings the page up to date by itself, when nothing waits and nobody is in the middle of something: on the way to another
 * screen, or while nobody looks.
 *
 * @param at the address that is shown
 */
export function useUpdate(at: string): void {
  const here = useNewer()
  useEffect(() => {
    if (!here) return
    const idle = () => {
      if (document.visibilityState === 'hidden' && outbox.waiting().length === 0) update()
    }
    document.addEventListener('visibilitychange', idle)
    return () => document.removeEventListener('visibilitychange', idle)
  }, [here])
  useEffect(() => {
    if (newer && outbox.waiting().length === 0) update()
    // on the way to another screen only
  }, [at])
}
