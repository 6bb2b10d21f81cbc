import { useEffect } from 'react'
import useSWR, { mutate } from 'swr'
import { z } from 'zod'
import { Copy, Custody, Errand, isOpen, Standings } from '../../contract/custody.ts'
import type { Standing } from '../../contract/custody.ts'
import { Problem } from '../../contract/problems.ts'
import { WIRE, WIRE_HEADER } from '../../contract/writes.ts'
import { ApiProblem, ask, read, takeAway, Unreachable } from './api.ts'
import { REMEMBERED } from './remembered.ts'

const CUSTODY = '/api/custody'
export const useCustody = (isOwner: boolean) =>
  useSWR(isOwner ? CUSTODY : null, (p: string) => read(p, Custody), { refreshInterval: 20_000 }).data

/** How often it is asked how far something is, ms. */
const ASKED_MS = 400

/** How far an errand is, until it is over; `onOver` is told once. */
export function useErrand(id: string | undefined, onOver: (errand: Errand) => void): Errand | undefined {
  const { data } = useSWR(id === undefined ? null : `/api/errands/${id}`, (p: string) => read(p, Errand), {
    refreshInterval: (now) => (now && !isOpen(now) ? 0 : ASKED_MS),
  })
  const over = data !== undefined && !isOpen(data)
  useEffect(() => {
    if (!over) return
    void mutate(CUSTODY)
    onOver(data)
    // told once, when it is over
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [over])
  return data
}

export const makeCopy = () => ask('/api/copies', {}, Errand)
/** @param take ids of what is to stand as in the copy */
export const restoreCopy = (name: string, take: readonly string[]) =>
  ask(`/api/copies/${name}/restore`, { take }, Errand)
/** What a copy says otherwise of who may do what and of what is public. */
export const standingOfCopy = (name: string): Promise<Standing[]> =>
  read(`/api/copies/${name}/standing`, Standings)
export const cancelErrand = (id: string) => ask(`/api/errands/${id}/cancel`, {}, Errand)
export async function dropCopy(name: string): Promise<void> {
  await takeAway(`/api/copies/${name}`, z.array(Copy))
  await mutate(CUSTODY)
}

/** Where a package is sent to: in the place of everything, or beside it; to be kept, or to see what would come. */
export type SentTo = '/api/restore' | '/api/merge' | '/api/merge?store=1'

type Told = (share: number) => void

/**
 * Sends a package; `told` how much of it is sent, 0 to 1.
 *
 * @param take ids of what is to stand as in the package, where it is restored
 */
export function sendPackage(
  to: SentTo,
  file: File,
  told: Told,
  signal: AbortSignal,
  take: readonly string[] = [],
): Promise<Errand> {
  const query = take.map((id) => `take=${id}`).join('&')
  return sent(query === '' ? to : `${to}?${query}`, file, told, signal, (body) => Errand.parse(body))
}

/** What a package says otherwise of who may do what and of what is public; it is looked at and let go. */
export const standingOfFile = (file: File, told: Told, signal: AbortSignal): Promise<Standing[]> =>
  sent('/api/standing', file, told, signal, (body) => Standings.parse(body))

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
