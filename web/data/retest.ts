import { v7 as newId } from 'uuid'
import { proposed } from '../../core/plan/planning.ts'
import { questionOf } from '../../core/plan/questions.ts'
import { LOOK } from '../../core/rotation/retest.ts'
import { plannedDisc, seedOf } from '../../contract/proposed.ts'
import type { JobRow, RotationDisc } from '../../contract/rotation.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import { BLANK_PLAN } from '../../contract/trials.ts'
import type { Trial } from '../../contract/trials.ts'
import { outbox } from './outbox.ts'
import { proposalFor } from './proposal.ts'

/**
 * Plans a re-test: the disc and a control disc thrown as its job is, as often as tells whether the disc still does it.
 *
 * @param throws throws of the disc that tell; a look where nobody doubts, or nothing tells
 * @returns the trial, kept on this device
 */
export async function planRetest(
  disc: RotationDisc,
  job: JobRow,
  throws: number | null,
  shelf: readonly ShelvedDisc[],
): Promise<Trial> {
  const { discs, control } = await proposalFor('label', disc.id, shelf)
  const controlDiscId = control !== null && discs.includes(control) ? control : null
  const discIds = controlDiscId === null ? [disc.id] : [disc.id, controlDiscId]
  const { armMps: _, hyzerDeg, power } = job.throwing
  const trial = {
    id: newId(),
    name: `${disc.code} again: ${job.name}`,
    question: `Does ${disc.code} still do “${job.name}”? ${questionOf('label').words}`,
    discIds,
    controlDiscId,
    hyzerDegs: [hyzerDeg],
    plannedThrows: discIds.length * (throws || LOOK),
    finishedAt: null,
    removedAt: null,
    version: 0,
  }
  const planned = shelf.filter((d) => discIds.includes(d.disc.id)).map(plannedDisc)
  const plan = proposed(trial, planned, 'label', seedOf(trial.id), [])
  const whole: Trial = {
    ...trial,
    plan: { ...BLANK_PLAN, ...plan, power, throwerIds: job.throwerId === null ? [] : [job.throwerId] },
  }
  await outbox.put('trials', whole)
  return whole
}
