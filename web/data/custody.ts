import { useEffect } from 'react'
import useSWR, { mutate } from 'swr'
import { z } from 'zod'
import { Copy, Custody, Errand, isOpen } from '../../contract/custody.ts'
import { Problem } from '../../contract/imports.ts'
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
export const restoreCopy = (name: string) => ask(`/api/copies/${name}/restore`, {}, Errand)
export const cancelErrand = (id: string) => ask(`/api/errands/${id}/cancel`, {}, Errand)
export async function dropCopy(name: string): Promise<void> {
  await takeAway(`/api/copies/${name}`, z.array(Copy))
  await mutate(CUSTODY)
}

/** Where a package is sent to: in the place of everything, or beside it; to be kept, or to see what would come. */
export type SentTo = '/api/restore' | '/api/merge' | '/api/merge?store=1'

/** Sends a package; `told` how much of it is sent, 0 to 1. */
export function sendPackage(
  to: SentTo,
  file: File,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<Errand> {
  // only this way of asking says how much was sent
  return new Promise((sent, failed) => {
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
      if (request.status === 200) return sent(Errand.parse(body))
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
