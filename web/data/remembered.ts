import { inWordsOfToday } from '../../contract/older.ts'
import { WIRE } from '../../contract/writes.ts'

/** Where the service worker keeps what the server answered, for when it does not. */
export const REMEMBERED = 'veer-line-answers'

/** Answers what was read before the next time the server is away; nothing where there is no such store. */
export async function remember(path: string, data: unknown): Promise<void> {
  if (typeof caches === 'undefined') return
  try {
    const kept = await caches.open(REMEMBERED)
    await kept.put(
      path,
      new Response(JSON.stringify(data), { headers: { 'content-type': 'application/json' } }),
    )
  } catch {
    // a device out of room keeps its queue; only reading while away suffers
  }
}

/** Under which name a device keeps the version of the wire its answers are in. */
const KEPT_WIRE = 'veer-line.answers-wire'

/** Brings answers that a page of an earlier version kept into the words of today, once: they may be read before the server is back. */
export async function bringForward(): Promise<void> {
  if (typeof caches === 'undefined') return
  try {
    if (localStorage.getItem(KEPT_WIRE) === String(WIRE)) return
    const kept = await caches.open(REMEMBERED)
    for (const request of await kept.keys()) {
      const answer = await kept.match(request)
      const headers = answer?.headers
      if (!answer || !headers?.get('content-type')?.includes('json')) continue
      await kept.put(request, new Response(JSON.stringify(inWordsOfToday(await answer.json())), { headers }))
    }
    localStorage.setItem(KEPT_WIRE, String(WIRE))
  } catch {
    // what cannot be read is asked for again once there is a server
  }
}
