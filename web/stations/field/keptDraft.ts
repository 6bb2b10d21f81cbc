import { z } from 'zod'
import { Session } from '../../../contract/trials.ts'
import type { Throw } from '../../../contract/trials.ts'
import { landingOf, NOTHING_SEEN } from './draft.ts'
import type { Logging } from './logging.ts'

/** What a draft is kept under on this device: one for each trial. */
const placeOf = (trialId: string) => `veer-line.landed.${trialId}`

/** A draft as it is kept: enough to know that it is one; what was seen of it is read field by field. */
const Kept = z.object({
  id: z.uuid(),
  session: Session,
  standing: z.looseObject({ throwerId: z.uuid(), sessionId: z.uuid(), power: z.number() }),
  seen: z.looseObject({ counts: z.boolean(), notes: z.record(z.string(), z.string()) }),
  asked: z.object({ discId: z.uuid().optional(), hyzerDeg: z.number().optional() }),
  askedPower: z.number().optional(),
  startedAt: z.number().optional(),
  landedAt: z.number(),
})

/** Where drafts are kept: a part of what browsers call storage. */
export type DraftStore = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>

/** Keeps a landing that was put down until its throw is kept; of a throw that has not landed nothing is kept. */
export function keepDraft(store: DraftStore, trialId: string, state: Logging): void {
  try {
    if (!landingOf(state.seen)) return store.removeItem(placeOf(trialId))
    const { id, session, standing, seen, asked, askedPower, startedAt, landedAt } = state
    store.setItem(
      placeOf(trialId),
      JSON.stringify({ id, session, standing, seen, asked, askedPower, startedAt, landedAt }),
    )
  } catch {
    // a device without room for it keeps its throws; a draft is lost with its page then
  }
}

/**
 * A draft that was put down on this device and neither kept nor cleared.
 *
 * @param fresh what logging would start from: what a draft of an earlier day does not know of stands as it is there
 * @param throws every throw of the trial: one that is among them was kept
 */
export function keptDraft(
  store: DraftStore,
  trialId: string,
  fresh: Logging,
  throws: readonly Pick<Throw, 'id'>[],
): Logging | undefined {
  try {
    const read = Kept.safeParse(JSON.parse(store.getItem(placeOf(trialId)) ?? 'null'))
    if (!read.success || throws.some((t) => t.id === read.data.id)) return undefined
    const { standing, seen, ...rest } = read.data
    return {
      ...fresh,
      ...rest,
      asked: rest.asked as Logging['asked'],
      askedPower: rest.askedPower,
      startedAt: rest.startedAt,
      standing: { ...fresh.standing, ...standing },
      seen: { ...NOTHING_SEEN, ...seen },
    }
  } catch {
    return undefined
  }
}
