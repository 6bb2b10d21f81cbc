import { useEffect, useSyncExternalStore } from 'react'
import { outbox } from './outbox.ts'

/** A newer app is looked for so often, ms. */
const LOOK_MS = 30 * 60_000
const SAID = 'veer-line.updated'

let newer = false
const listeners = new Set<() => void>()
let registered: ServiceWorkerRegistration | undefined

function arrived(): void {
  newer = true
  for (const listener of listeners) listener()
}

/** Has the app open without its server, and looks for a newer one. */
export function install(): void {
  if (!('serviceWorker' in navigator)) return
  const { serviceWorker } = navigator
  // the first one that takes over is the app's own; after that, a page of another tab has become the newer app
  let first = serviceWorker.controller === null
  serviceWorker.addEventListener('controllerchange', () => {
    if (first) first = false
    else arrived()
  })
  // with it went the parts of this app that were not opened yet
  window.addEventListener('vite:preloadError', (e) => {
    if (!newer) return
    e.preventDefault()
    update()
  })
  // a browser that is told to run none answers with none
  void serviceWorker.register('/sw.js').then((registration: ServiceWorkerRegistration | undefined) => {
    if (!registration) return
    registered = registration
    const known = () => registration.waiting !== null && serviceWorker.controller !== null && arrived()
    known()
    registration.addEventListener('updatefound', () => {
      const { installing } = registration
      installing?.addEventListener('statechange', known)
    })
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

/** Begins the page anew, as the app that is in force. */
function reload(): void {
  try {
    sessionStorage.setItem(SAID, '1')
  } catch {
    // then it is not said
  }
  location.reload()
}

/**
 * Brings the page up to date; what waits is kept, and would be sent by the page of today. The newer worker takes over once the
 * one before has answered what it was asked, and only then is there a newer page to load.
 */
export function update(): void {
  const waiting = registered?.waiting
  if (!waiting) return reload()
  navigator.serviceWorker.addEventListener('controllerchange', reload, { once: true })
  waiting.postMessage({ type: 'SKIP_WAITING' })
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
