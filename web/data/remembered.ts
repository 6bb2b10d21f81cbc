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
