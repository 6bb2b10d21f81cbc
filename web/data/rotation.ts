import { v7 as newId } from 'uuid'
import type { DiscEventKind } from '../../core/rotation/life.ts'
import type { DiscEvent } from '../../contract/rotation.ts'
import { outbox } from './outbox.ts'
import { today } from './outing.ts'

/** Notes something in the life of a disc, today. @returns the entry, which may be taken back */
export async function happened(
  discId: string,
  kind: DiscEventKind,
  jobId: string | null = null,
): Promise<DiscEvent> {
  const event: DiscEvent = { id: newId(), discId, day: today(), kind, jobId, note: '', removedAt: null }
  await keepEvent(event)
  return event
}
/** Keeps an entry in the life of a disc as it is given. */
export const keepEvent = (event: DiscEvent): Promise<unknown> => outbox.put('disc-events', event)
/** Puts an entry that was taken back into its place again. */
export const restore = (event: DiscEvent): Promise<unknown> => keepEvent({ ...event, removedAt: null })
export const takeBack = (event: DiscEvent): Promise<unknown> =>
  keepEvent({ ...event, removedAt: new Date().toISOString() })
