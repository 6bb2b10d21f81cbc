import { at } from '../../contract/api.ts'
import { useEffect } from 'react'
import { mutate } from 'swr'
import { Errand, isOpen, CopyStandings } from '../../contract/custody.ts'
import type { CopyStanding } from '../../contract/custody.ts'
import { Problem } from '../../contract/problems.ts'
import { WIRE, WIRE_HEADER } from '../../contract/writes.ts'
import { ApiProblem, read, send, Unreachable } from './api.ts'
import { useRead } from './hooks.ts'
import { REMEMBERED } from './remembered.ts'

const CUSTODY = at('GET /api/custody')
export const useCustody = (isOwner: boolean) =>
  useRead(isOwner ? CUSTODY : null, { refreshInterval: 20_000 }).data

/** How often it is asked how far something is, ms. */
const ASKED_MS = 400

/** How far an errand is, until it is over; `onOver` is told once. */
export function useErrand(id: string | undefined, onOver: (errand: Errand) => void): Errand | undefined {
  const { data } = useRead(id === undefined ? null : at('GET /api/errands/:id', { id }), {
    refreshInterval: (now) => (now && !isOpen(now) ? 0 : ASKED_MS),
  })
  const over = data !== undefined && !isOpen(data)
  useEffect(() => {
    if (!over) return
    void mutate(CUSTODY.path)
    onOver(data)
    // told once, when it is over
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [over])
  return data
}

export const makeCopy = () => send(at('POST /api/copies'))
/** @param take ids of what is to stand as in the copy */
export const restoreCopy = (name: string, take: readonly string[]) =>
  send(at('POST /api/copies/:name/restore', { name }), { take: [...take] })
/** What a copy says otherwise of who may do what and of what is public. */
export const standingOfCopy = (name: string): Promise<CopyStanding[]> =>
  read(at('GET /api/copies/:name/standing', { name }))
export const cancelErrand = (id: string) => send(at('POST /api/errands/:id/cancel', { id }))
export async function dropCopy(name: string): Promise<void> {
  await send(at('DELETE /api/copies/:name', { name }))
  await mutate(CUSTODY.path)
}

/** Where a package is sent to: in the place of everything, or beside it; to be kept, or to see what would come. */
export type PackageTo = 'restore' | 'merge' | 'look'

type Told = (share: number) => void

/**
 * Sends a package; `told` how much of it is sent, 0 to 1.
 *
 * @param take ids of what is to stand as in the package, where it is restored
 */
export function sendPackage(
  to: PackageTo,
  file: File,
  told: Told,
  signal: AbortSignal,
  take: readonly string[] = [],
): Promise<Errand> {
  const where =
    to === 'restore'
      ? at('POST /api/restore', { take: [...take] })
      : at('POST /api/merge', to === 'merge' ? { store: '1' } : {})
  return sent(where.path, file, told, signal, (body) => Errand.parse(body))
}

/** What a package says otherwise of who may do what and of what is public; it is looked at and let go. */
export const standingOfFile = (file: File, told: Told, signal: AbortSignal): Promise<CopyStanding[]> =>
  sent(at('POST /api/standing').path, file, told, signal, (body) => CopyStandings.parse(body))

function sent<T>(
  to: string,
  file: File,
  told: Told,
  signal: AbortSignal,
  parsed: (body: unknown) => T,
): Promise<T> {
  // only this way of asking says how much was sent
  return new Promise((done, failed) => {
    const request = new XMLHttpRequest()
    request.open('POST', to)
    request.setRequestHeader('content-type', 'application/zip')
    request.setRequestHeader(WIRE_HEADER, String(WIRE))
    request.upload.onprogress = (e) => told(e.loaded / Math.max(1, e.total))
    request.onerror = () => failed(new Unreachable('The server does not answer; nothing was changed.'))
    request.onabort = () => failed(new Error('Cancelled; nothing was changed.'))
    request.onload = () => {
      let body: unknown
      try {
        body = JSON.parse(request.responseText)
      } catch {
        body = undefined
      }
      if (request.status === 200) return done(parsed(body))
      const problem = Problem.safeParse(body).data
      failed(
        problem
          ? new ApiProblem(problem)
          : new Unreachable(`The server answered ${request.status}; nothing was changed.`),
      )
    }
    signal.addEventListener('abort', () => request.abort(), { once: true })
    request.send(file)
  })
}

/** Another database stands behind the page: whatever was read before is forgotten. */
export async function readAnew(): Promise<void> {
  if (typeof caches !== 'undefined') await caches.delete(REMEMBERED)
  await mutate(() => true)
}
